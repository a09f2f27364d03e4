export { FilmPicture } from './film-picture';
export { Drawing, Handle, held, type OverlayProps, Stroke } from './handle';
export { MissingFiles } from './missing-files';
export { ScoreLines, useBarsALine } from './score-lines';
export { useThumbnail } from './thumbnails';
export { Transport } from './transport';
export { useHeard } from './use-heard';
export { useJob } from './use-job';
export { useMeasured } from './use-measured';
