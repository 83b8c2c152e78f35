/** A file whose structure is damaged or not what it claims: one sentence for people. */
export class ContainerError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "ContainerError";
  }
}
