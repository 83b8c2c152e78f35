import { handOverPackage, route } from "@/app/server";

/** Makes the documents and hands them over. */
export const POST = route((_request, { id }) => handOverPackage(id));
