export { descriptionOf, pairingCode, reachOf, readPairingCode } from './pairing';
export { type Line, passOn, takeOver } from './pass-on';
