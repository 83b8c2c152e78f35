import { SheetScreen } from "@/ui/sheet/sheet-screen";

export default function Page() {
  return <SheetScreen />;
}
