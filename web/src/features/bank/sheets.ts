/** What lies over the pad, in a file of its own. */
export { BottomSheet } from "./BottomSheet";
export { BubbleSheet } from "./BubbleSheet";
export { CardSheet } from "./CardSheet";
export { CatchSheet } from "./CatchSheet";
export { ChangeSheet, DrySheet } from "./ChangeSheet";
export { DaySheet } from "./DaySheet";
export { EndSheet } from "./EndSheet";
export { LatestSheet } from "./LatestSheet";
export { LostSheet } from "./LostSheet";
export { OnTime } from "./OnTime";
export { StopAndRead } from "./StopAndRead";
export { TieSheet } from "./TieSheet";
