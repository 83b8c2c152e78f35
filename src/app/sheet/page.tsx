import { Sheet } from "../screens";

export default function Page() {
  return <Sheet />;
}
