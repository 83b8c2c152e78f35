import { route } from "@/app/server/answer";
import { counterView } from "@/app/server/counter";

export const dynamic = "force-dynamic";

export const GET = route(() => counterView());
