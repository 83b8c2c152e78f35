import { FrameScreen } from "@/ui/frame";

export default function Page() {
  return <FrameScreen />;
}
