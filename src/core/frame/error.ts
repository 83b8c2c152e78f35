/** The brief cannot be met by this photo, whatever the encoding. The message is one sentence for people. */
export class GeometryError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "GeometryError";
  }
}
