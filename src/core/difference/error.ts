/** Two pictures that cannot be compared; the message is a whole sentence. */
export class DifferenceError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "DifferenceError";
  }
}
