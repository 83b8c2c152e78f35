import { route } from "@/app/server/answer";
import { handOverPackage } from "@/app/server/counter";

/** Makes the documents and hands them over. */
export const POST = route((_request, { id }) => handOverPackage(id));
