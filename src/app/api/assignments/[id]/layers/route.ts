import { layersView, lighterView, readBody, requireWeighed, route } from "@/app/server";
import { lighterSchema } from "@/core/photo";

/** The layers or pages of a photo, and what weighs how much; nothing is decoded. */
export const GET = route(async (_request, { id }) => layersView(await requireWeighed(id)));

/** What measures save, measured; nothing is kept. */
export const POST = route(async (request, { id }) =>
  lighterView(await requireWeighed(id), await readBody(request, lighterSchema)),
);
