export function compileRows(): Promise<string>;
