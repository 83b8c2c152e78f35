import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it } from "vitest";
import { fetchAnew } from "@/ui/api/client";

it("fetches once more what had been asked for before a change, and was under way during it", async () => {
  const client = new QueryClient();
  const list = ["one"];
  const answers: (() => void)[] = [];
  const fetched = () =>
    new Promise<string[]>((resolve) => {
      // What the server sees is what is there when it is asked.
      const seen = [...list];
      answers.push(() => resolve(seen));
    });
  const observer = new QueryObserver<string[]>(client, { queryKey: ["desk"], queryFn: fetched });
  const stop = observer.subscribe(() => undefined);
  await expect.poll(() => answers.length).toBe(1);
  list.push("two");
  const done = fetchAnew(client);
  answers[0]();
  await expect.poll(() => answers.length).toBe(2);
  answers[1]();
  await done;
  expect(observer.getCurrentResult().data).toEqual(["one", "two"]);
  stop();
});
