export { idSchema } from './id';
export type { Again, FrameRequest, Size, SourceContext, SourceSetting } from './kind';
export { fillFrame } from './placing';
export { nestedIn, SOURCES, type Source, type SourceDescription, sourceKind, sourceSchema } from './registry';
export type { TitleDescription, TitleSource } from './title';
export { partOffset, partShown, type TitlePart, titleParts } from './title-parts';
