import { WeighScreen } from "@/ui/weigh/weigh-screen";

export default function Page() {
  return <WeighScreen />;
}
