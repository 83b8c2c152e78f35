import { Counter } from "../screens";

export default function Page() {
  return <Counter />;
}
