import { route } from "@/app/server/answer";
import { shelveBriefs } from "@/app/server/counter";

/** Reads the receiver's wording into briefs, and puts them on the shelf. */
export const POST = route((_request, { id }) => shelveBriefs(id));
