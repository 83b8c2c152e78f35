import { RunsScreen } from "@/ui/runs";

export default function Page() {
  return <RunsScreen />;
}
