/** How one mask of a layer meets those before it. */
export const COMBINES = ['add', 'subtract', 'intersect'] as const;
export type Combine = (typeof COMBINES)[number];
