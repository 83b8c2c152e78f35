import { Desk } from "@/ui/desk/desk";

export default function Page() {
  return <Desk />;
}
