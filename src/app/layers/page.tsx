import { LayersScreen } from "@/ui/layers";

export default function Page() {
  return <LayersScreen />;
}
