import { WeighScreen } from "@/ui/weigh";

export default function Page() {
  return <WeighScreen />;
}
