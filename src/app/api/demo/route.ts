import { addJob, announce, PRIORITY } from "@/store";
import { getStore, route } from "../../server";

/** Puts the demo back as it was. */
export const POST = route(async () => {
  const { db } = getStore();
  await addJob(db, "demo", "demo", PRIORITY.demo);
  await announce(db, null);
});
