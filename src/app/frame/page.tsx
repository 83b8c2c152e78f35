import { FrameScreen } from "@/ui/frame/frame-screen";

export default function Page() {
  return <FrameScreen />;
}
