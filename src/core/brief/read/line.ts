/** The words of a run of tokens as one string, with the way back to the tokens. */
import type { Token } from "./tokens";

export const words = (tokens: readonly Token[]): string => tokens.map((token) => token.text).join(" ");

/** Joined once, then cut by token or by place without joining again. */
export class Line {
  readonly text: string;
  private readonly starts: number[] = [];

  constructor(readonly tokens: readonly Token[]) {
    let at = 0;
    for (const token of tokens) {
      this.starts.push(at);
      at += token.text.length + 1;
    }
    this.starts.push(at);
    this.text = words(tokens);
  }

  /** The words of the tokens from `from` up to `to`, exclusive. */
  cut(from: number, to: number): string {
    return from >= to ? "" : this.text.slice(this.starts[from], this.starts[to] - 1);
  }

  /** The tokens that a match in the text covers. */
  cover(index: number, length: number): Token[] {
    return this.tokens.filter(
      (token, i) => this.starts[i] + token.text.length > index && this.starts[i] < index + length,
    );
  }
}
