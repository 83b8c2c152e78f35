import { route } from "@/app/server/answer";
import { requireBatch } from "@/app/server/batch";
import { getStore } from "@/app/server/store";
import { batchView } from "@/app/server/views";

export const dynamic = "force-dynamic";

export const GET = route(async (_request, { id }) => batchView(getStore().db, await requireBatch(id)));
