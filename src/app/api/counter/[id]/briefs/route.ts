import { route, shelveBriefs } from "@/app/server";

/** Reads the receiver's wording into briefs, and puts them on the shelf. */
export const POST = route((_request, { id }) => shelveBriefs(id));
