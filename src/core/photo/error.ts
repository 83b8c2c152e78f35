/** The brief cannot be met by this photo, whatever the encoding. The message is one sentence for people. */
export class GeometryError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "GeometryError";
  }
}

/** A photo that cannot be read or made: one clear sentence for people. */
export class PhotoError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "PhotoError";
  }
}
