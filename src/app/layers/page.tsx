import { Layers } from "../screens";

export default function Page() {
  return <Layers />;
}
