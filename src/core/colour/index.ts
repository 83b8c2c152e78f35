export * from "./conversion";
export * from "./curve";
export * from "./delta-e";
export * from "./matrix";
export * from "./profile";
export * from "./spaces";
export * from "./write-profile";
