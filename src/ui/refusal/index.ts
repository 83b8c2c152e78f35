export { AnswerButton } from "./answer-button";
export { RefusalPanel, refusalsIn } from "./refusal-panel";
