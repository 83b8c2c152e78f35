export { clauseGauge, NOTHING, pixelGauge } from "./clauses";
export { type GaugeInput, gaugeModel } from "./model";
