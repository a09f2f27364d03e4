/** A yes-or-no picture, one byte a pixel (0 or 1). */
export interface Mask {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Runs of one value and the connected part each belongs to, named by its first run; sizes and edges stand at that run. */
export interface Labelled {
  runs: Int32Array;
  part: Int32Array;
  size: Int32Array;
  /** 1 where the part touches the mask's edge. */
  edge: Uint8Array;
}
