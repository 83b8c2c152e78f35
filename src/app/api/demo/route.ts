import { route } from "@/app/server/answer";
import { getStore } from "@/app/server/store";
import { addJob, announce, PRIORITY } from "@/store/queue";

/** Puts the demo back as it was. */
export const POST = route(async () => {
  const { db } = getStore();
  await addJob(db, "demo", "demo", PRIORITY.demo);
  await announce(db, null);
});
