/** What lay in a database of an earlier version is still there in the newest. */
import { randomBytes } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import pg from "pg";
import { expect, it } from "vitest";

const FOLDER = "src/store/migrations";
const files = readdirSync(FOLDER)
  .filter((name) => name.endsWith(".sql"))
  .sort();

it("makes slots of the documents of a form that were begun before there were any", async () => {
  const server = process.env.ZUMBREL_TEST_DATABASE!;
  const name = `t${randomBytes(6).toString("hex")}`;
  const admin = new pg.Client({ connectionString: server });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const client = new pg.Client({ connectionString: server.replace(/\/zumbrel$/, `/${name}`) });
  await client.connect();
  const migrate = async (which: (file: string) => boolean) => {
    for (const file of files.filter(which))
      for (const statement of readFileSync(`${FOLDER}/${file}`, "utf8").split("--> statement-breakpoint"))
        await client.query(statement);
  };
  try {
    await migrate((file) => file < "0011");
    const one = async (text: string, values: unknown[] = []) =>
      (await client.query<{ id: string }>(text, values)).rows[0].id;
    const workspace = await one("insert into workspaces (name) values ('w') returning id");
    const brief = await one("insert into briefs (workspace_id) values ($1) returning id", [workspace]);
    const revision = await one(
      "insert into brief_revisions (brief_id, number, body) values ($1, 1, $2) returning id",
      [brief, { zumbrelBrief: 1, name: "Permit: Portrait" }],
    );
    const batch = await one("insert into batches (workspace_id, name) values ($1, 'b') returning id", [
      workspace,
    ]);
    const other = await one("insert into batches (workspace_id, name) values ($1, 'c') returning id", [
      workspace,
    ]);
    const receiver = await one(
      "insert into receivers (workspace_id, rules, position) values ($1, '{}', 0) returning id",
      [workspace],
    );
    const row = "11111111-2222-4333-8444-555555555555";
    await client.query("insert into packages (receiver_id, batch_id, slots) values ($1, $2, $3)", [
      receiver,
      batch,
      {
        portrait: { briefId: brief, revisionId: revision, batchPhotoId: row },
        signature: { briefId: brief, revisionId: revision, batchPhotoId: null },
      },
    ]);
    await migrate((file) => file >= "0011");
    const slotsOf = async (id: string) =>
      (await client.query<{ slots: unknown[] }>("select slots from batches where id = $1", [id])).rows[0]
        .slots;
    expect(await slotsOf(batch)).toEqual(
      expect.arrayContaining([
        { id: "portrait", name: "Permit: Portrait", revisionId: revision, row },
        { id: "signature", name: "Permit: Portrait", revisionId: revision, row: null },
      ]),
    );
    expect(await slotsOf(other)).toEqual([]);
  } finally {
    await client.end();
  }
});
