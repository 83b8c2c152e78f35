import { route } from "@/app/server/answer";
import { arrivedSizes } from "@/app/server/counter";

/** The pixels of what came, and how the receiver shows or prints them. */
export const GET = route(async (_request, { id }) => ({ sizes: await arrivedSizes(id) }));
