import { SheetScreen } from "@/ui/print-sheet";

export default function Page() {
  return <SheetScreen />;
}
