import { LayersScreen } from "@/ui/layers/layers-screen";

export default function Page() {
  return <LayersScreen />;
}
