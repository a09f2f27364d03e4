export { matchSlot, type SlotMatch } from './match-slot';
export { sequencesIn } from './sequences';
export { settingsVarying } from './settings';
export { type StrikeRow, strikeReport } from './strike';
