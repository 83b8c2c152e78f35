/** A bar on standard error, on a terminal only. */
export class Progress {
  constructor(private readonly total: number) {}

  at(done: number): void {
    if (!process.stderr.isTTY || this.total < 2) return;
    const width = 30;
    const filled = Math.round((done / this.total) * width);
    process.stderr.write(
      `\r${"█".repeat(filled)}${"░".repeat(width - filled)} ${done} of ` +
        `${this.total}${done === this.total ? "\n" : ""}`,
    );
  }
}
