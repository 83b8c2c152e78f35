import { RunsScreen } from "@/ui/runs/runs-screen";

export default function Page() {
  return <RunsScreen />;
}
