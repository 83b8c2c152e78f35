import { checkId, route, tryAgain } from "@/app/server";

/** Tries again what broke off. */
export const POST = route((_request, { id }) => tryAgain(checkId(id)));
