import { photosToChoose, route } from "@/app/server";

export const dynamic = "force-dynamic";

export const GET = route(async () => ({ photos: await photosToChoose() }));
