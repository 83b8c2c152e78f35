import { counterView, route } from "../../server";

export const GET = route(() => counterView());
