import type { RefObject } from "react";

/** Browsers know this attribute; React's types do not. */
const FOLDERS = { webkitdirectory: "" };

interface Props {
  label: string;
  /** Opened by a click on it. */
  input: RefObject<HTMLInputElement | null>;
  folders?: boolean;
  onFiles: (files: File[]) => void;
}

/** The browser's own window for choosing files. */
export const FileInput = ({ label, input, folders = false, onFiles }: Props) => (
  <input
    ref={input}
    type="file"
    hidden
    multiple
    {...(folders && FOLDERS)}
    aria-label={label}
    onChange={(event) => {
      onFiles([...(event.target.files ?? [])]);
      event.target.value = "";
    }}
  />
);
