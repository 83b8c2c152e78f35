export { actWords, isUnit, sumChange } from "./change";
export { enlargement, inMemory, madeUp, megapixels, noLongerGoodFor, PRINT_PPI, printSize } from "./readings";
export { balance, type Edit, type Sum, sumOf, type Term } from "./sum";
