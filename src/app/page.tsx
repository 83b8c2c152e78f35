import { Desk } from "./screens";

export default function Page() {
  return <Desk />;
}
