import { route } from "@/app/server/answer";
import { photosToChoose } from "@/app/server/counter";

export const dynamic = "force-dynamic";

export const GET = route(async () => ({ photos: await photosToChoose() }));
