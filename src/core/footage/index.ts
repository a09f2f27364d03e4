export { type FigureAt, Footage, type FootageOptions, photographBackground } from './footage';
