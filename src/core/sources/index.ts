export { idSchema } from './id';
export type { Again, FrameRequest, Size, SourceContext, SourceSetting } from './kind';
export { fillFrame } from './placing';
export { nestedIn, SOURCES, type Source, type SourceDescription, sourceKind, sourceSchema } from './registry';
export { TITLE_BY, TITLE_COMES, type TitleDescription, type TitleSource } from './title';
export { partOffset, partShown, type TitlePart, titleParts } from './title-parts';
