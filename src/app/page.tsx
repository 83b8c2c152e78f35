import { Desk } from "@/ui/desk";

export default function Page() {
  return <Desk />;
}
