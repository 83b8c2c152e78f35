import { Briefs } from "../screens";

export default function Page() {
  return <Briefs />;
}
