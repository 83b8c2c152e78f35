import { CounterScreen } from "@/ui/counter";

export default function Page() {
  return <CounterScreen />;
}
