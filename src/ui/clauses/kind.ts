/** How a clause is edited: what its fields begin with, how they are read, and how they look. */
import type { UseFormReturn } from "react-hook-form";
import type { Brief } from "@/core/brief";
import type { Values } from "./fields";

export interface Kind {
  start: (brief: Brief) => Values;
  /** The clauses that the typed values mean. Throws where they mean none. */
  read: (values: Values, brief: Brief) => Partial<Brief>;
  Fields: (props: { form: UseFormReturn<Values>; brief: Brief }) => React.ReactNode;
}
