import { Runs } from "../screens";

export default function Page() {
  return <Runs />;
}
