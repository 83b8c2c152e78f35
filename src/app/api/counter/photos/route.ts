import { photosToChoose, route } from "@/app/server";

export const GET = route(async () => ({ photos: await photosToChoose() }));
