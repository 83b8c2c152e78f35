import { CounterScreen } from "@/ui/counter/counter-screen";

export default function Page() {
  return <CounterScreen />;
}
