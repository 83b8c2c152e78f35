import { route, runForForm } from "@/app/server";

/** A run's files, and which document of the form each would be. */
export const GET = route((request, { id }) =>
  runForForm(id, new URL(request.url).searchParams.get("run") ?? ""),
);
