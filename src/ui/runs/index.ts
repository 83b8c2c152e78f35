export { RunsScreen } from "./runs-screen";
