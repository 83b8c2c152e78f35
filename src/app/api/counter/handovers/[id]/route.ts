import { checkId, route } from "@/app/server/answer";
import { tryAgain } from "@/app/server/hand-over";

/** Tries again what broke off. */
export const POST = route((_request, { id }) => tryAgain(checkId(id)));
