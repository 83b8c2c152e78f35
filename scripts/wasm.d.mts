export const MODULES: Readonly<Record<string, string>>;
export function compile(name: string): Promise<string>;
