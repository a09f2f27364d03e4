import { VideoSample } from 'mediabunny';

/**
 * A picture that was made, as packed I420 of BT.709, for an encoder; times in seconds. It is a frame of the browser's own, which is freed as
 * it is closed: bytes copied once more would wait for the collector.
 */
export function madeFrame(bytes: Uint8Array<ArrayBuffer>, width: number, height: number, timestamp: number, duration: number): VideoSample {
  const frame = new VideoFrame(bytes, {
    format: 'I420',
    codedWidth: width,
    codedHeight: height,
    timestamp: Math.round(1e6 * timestamp),
    duration: Math.round(1e6 * duration),
    colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
  });
  return new VideoSample(frame, { timestamp, duration });
}
