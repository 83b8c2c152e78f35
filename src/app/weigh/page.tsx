import { Weigh } from "../screens";

export default function Page() {
  return <Weigh />;
}
