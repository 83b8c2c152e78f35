/** A value that cannot be read: says what it belongs to, what was wanted, what was found. */
export class UnitError extends Error {
  constructor(
    readonly what: string,
    readonly wanted: string,
    readonly found: string,
  ) {
    super(`${what}: wanted ${wanted}, found ${found}`);
    this.name = "UnitError";
  }
}
