import { editStep } from "@/app/server";

export const POST = editStep("undo");
