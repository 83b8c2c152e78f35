import { counterView, route } from "../../server";

export const dynamic = "force-dynamic";

export const GET = route(() => counterView());
