export const TEXTS: readonly string[];
export function compile(text: string): Promise<string>;
