export { LayersScreen } from "./layers-screen";
