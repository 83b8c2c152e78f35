import { Briefs } from "@/ui/briefs";

export default function Page() {
  return <Briefs />;
}
