/** What is opened over the day, in a file of its own. */
export { BeatSheet } from "../setup/BeatSheet";
export { LieSheet } from "../setup/LieSheet";
export { ShareSheet } from "../sharing/ShareSheet";
