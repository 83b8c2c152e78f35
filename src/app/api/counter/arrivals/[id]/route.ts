import { arrivedSizes, route } from "@/app/server";

/** The pixels of what came, and how the receiver shows or prints them. */
export const GET = route(async (_request, { id }) => ({ sizes: await arrivedSizes(id) }));
