/** The few parts of OpenCV.js that tests use as a second opinion. */
interface OpenCvMat {
  data: Uint8Array;
  data32F: Float32Array;
  delete(): void;
}
interface OpenCv {
  onRuntimeInitialized?: () => void;
  Mat: { new (): OpenCvMat; eye(rows: number, cols: number, type: number): OpenCvMat };
  Size: new (w: number, h: number) => object;
  Scalar: new (...v: number[]) => object;
  TermCriteria: new (type: number, count: number, eps: number) => object;
  matFromArray(rows: number, cols: number, type: number, data: ArrayLike<number>): OpenCvMat;
  warpAffine(src: OpenCvMat, dst: OpenCvMat, m: OpenCvMat, size: object, flags: number, border: number, value: object): void;
  findTransformECC(
    template: OpenCvMat,
    input: OpenCvMat,
    warp: OpenCvMat,
    motion: number,
    criteria: object,
    mask: OpenCvMat,
    gauss: number,
  ): number;
  CV_8UC1: number;
  CV_32FC1: number;
  CV_64FC1: number;
  INTER_LANCZOS4: number;
  BORDER_REFLECT: number;
  MOTION_EUCLIDEAN: number;
}
