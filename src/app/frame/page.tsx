import { Frame } from "../screens";

export default function Page() {
  return <Frame />;
}
