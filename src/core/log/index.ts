export { matchSlot, type SlotMatch } from './match-slot';
export { settingsVarying } from './settings';
export { type StrikeRow, strikeReport } from './strike';
