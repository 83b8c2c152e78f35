export { FrameScreen } from "./frame-screen";
