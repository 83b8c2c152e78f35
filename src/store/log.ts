/** Structured logs on standard error; photos are named by id, never by content. */
import pino from "pino";

export const makeLog = (name: string, level: string) =>
  pino({ name, level, base: { name } }, pino.destination({ fd: 2, sync: true }));
