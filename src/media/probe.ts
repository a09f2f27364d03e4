import {
  ALL_FORMATS,
  type AudioSample,
  AudioSampleSink,
  BlobSource,
  EncodedPacketSink,
  Input,
  type InputAudioTrack,
  type InputVideoTrack,
  type VideoSample,
  VideoSampleSink,
} from 'mediabunny';
import type { Media } from '@/core/document';
import { say } from '@/core/words';
import { answering } from './answering';
import { colourOf } from './colour-of';

/** What a file turned out to be: usable media, or a sentence about why it cannot be used. */
export type Probe = { ok: true; media: Omit<Media, 'id' | 'name' | 'bytes' | 'type'> } | { ok: false; reason: string };

const LONGEST_TAKE = 60 * 60;
const NAMES: Record<string, string> = {
  hevc: say`HEVC (H.265)`,
  prores: 'ProRes',
  av1: 'AV1',
  vp9: 'VP9',
  vp8: 'VP8',
  avc: 'H.264',
  mpeg4: say`MPEG-4 Part 2`,
  mpeg2: 'MPEG-2',
};

/** Profiles by the number in a codec's own string: ITU-T H.264 annex A and H.265 annex A. */
const AVC_PROFILES: Record<number, string> = {
  66: 'Baseline',
  77: 'Main',
  88: 'Extended',
  100: 'High',
  110: say`High 10`,
  122: say`High 4:2:2`,
  244: say`High 4:4:4 Predictive`,
  44: say`CAVLC 4:4:4 Intra`,
};
const HEVC_PROFILES: Record<number, string> = { 1: 'Main', 2: say`Main 10`, 3: say`Main Still Picture`, 4: say`Range Extensions` };

/** The profile of H.264 or HEVC as words after its name; '' where it is not known. */
export function profileOf(codecString: string | null): string {
  const avc = /^avc[13]\.([0-9a-f]{2})/i.exec(codecString ?? '');
  const hevc = /^(?:hvc1|hev1)\.[ABC]?(\d+)/.exec(codecString ?? '');
  const name = avc ? AVC_PROFILES[Number.parseInt(avc[1], 16)] : hevc && HEVC_PROFILES[Number(hevc[1])];
  return name ? say`, profile ${name}` : '';
}

const NO_INDEX = say`The file is damaged or was cut off: its index cannot be read. Copy it from the camera again, whole.`;
const refused = (reason: string): Probe => ({ ok: false, reason });

/** Pixels a side that a take has at least. */
const SMALLEST = 16;

/** Looks into a file without reading it whole: its form, and whether its beginning can be decoded. Never throws for bad files. */
export async function probe(file: Blob): Promise<Probe> {
  if (file.size === 0) return refused(say`The file is empty (0 bytes). Copy it from the camera again.`);
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  try {
    const video = await input.getPrimaryVideoTrack();
    const audio = await input.getPrimaryAudioTrack();
    if (video) return await probeVideo(video, audio);
    if (audio) return await probeAudio(audio);
    return refused(say`There is no picture and no sound in this file.`);
  } catch (error) {
    return refused(sentenceFor(error));
  } finally {
    input.dispose();
  }
}

function sentenceFor(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  if (/unsupported or unrecognizable/i.test(text))
    return say`This is not a video or sound file that can be read, whatever its name says. Formats that work: MP4, MOV, WebM, MKV; for sound also MP3, M4A, WAV, OGG, FLAC.`;
  return NO_INDEX;
}

/** Whether a first sample can be decoded. */
async function decodes(samples: AsyncGenerator<VideoSample | AudioSample, void, unknown>): Promise<boolean> {
  try {
    for await (const sample of answering(samples, 5000)) {
      sample.close();
      return true;
    }
  } catch {
    return false;
  }
  return false;
}

async function probeVideo(track: InputVideoTrack, audio: InputAudioTrack | null): Promise<Probe> {
  const codec = (await track.getCodec()) ?? String((await track.getInternalCodecId()) ?? 'unknown');
  const duration = (await track.getDurationFromMetadata()) ?? 0;
  if (!Number.isFinite(duration) || duration < 0) return refused(NO_INDEX);
  if (duration > LONGEST_TAKE)
    return refused(
      say`This file is ${Math.round(duration / 60)} minutes long. Takes of up to 60 minutes are taken in: cut out the part you need and import that.`,
    );
  if (!(await track.canDecode())) {
    const name = `${NAMES[codec] ?? codec}${profileOf(await track.getCodecParameterString().catch(() => null))}`;
    return refused(
      say`This was filmed in ${name}, which this browser cannot decode. Set the camera to H.264 High for the next take, and convert this one: ffmpeg -i in.mov -c:v libx264 -profile:v high -crf 16 -pix_fmt yuv420p -c:a aac out.mp4`,
    );
  }
  const sink = new EncodedPacketSink(track);
  const last = await sink.getPacket(Number.POSITIVE_INFINITY).catch(() => null);
  const first = await sink.getFirstPacket().catch(() => null);
  if (!first || first.data.byteLength === 0)
    return refused(say`The file has an index but no pictures behind it: the recording was cut off. Copy it from the camera again, whole.`);
  const end = last && last.data.byteLength > 0 ? last.timestamp + last.duration : 0;
  if (end <= 0 || (duration > 0 && end < duration * 0.9 - 0.5)) {
    return refused(
      say`The file breaks off: its index promises ${duration.toFixed(1)} s, but its end is missing. Copy it from the camera again, whole.`,
    );
  }
  const stats = await track.computePacketStats(240);
  const rate = stats.averagePacketRate;
  const { space, wide } = await colourOf(track);
  const height = await track.getDisplayHeight();
  const width = await track.getDisplayWidth();
  if (Math.min(width, height) < SMALLEST || Math.max(width, height) > 16_384)
    return refused(say`Its pictures are ${width}×${height} pixels: a take has ${SMALLEST} to 16384 each way.`);
  if (!(end < LONGEST_TAKE + 60 && rate > 0 && rate <= 1000)) return refused(NO_INDEX);
  if (!(await decodes(new VideoSampleSink(track).samples(first.timestamp))))
    return refused(say`Its pictures cannot be decoded: the file is damaged. Copy it from the camera again, whole.`);
  return {
    ok: true,
    media: {
      kind: 'video',
      duration: end,
      width: width & ~1,
      height: height & ~1,
      rotation: await track.getRotation(),
      codec: NAMES[codec] ?? codec,
      fps: rate,
      variableRate: await isVariable(sink, rate),
      hasSound: audio !== null && (await audio.canDecode()),
      colour: space,
      ...((await track.canBeTransparent()) && first.sideData.alpha && { clear: true as const }),
      ...(wide && wide.transfer !== 'sdr' && { dynamic: wide.transfer }),
    },
  };
}

/** True when frame spacing over the first 120 frames departs by more than a tenth from the mean on more than one in fifty. */
async function isVariable(sink: EncodedPacketSink, rate: number): Promise<boolean> {
  const times: number[] = [];
  for await (const packet of sink.packets(undefined, undefined, { metadataOnly: true })) {
    times.push(packet.timestamp);
    if (times.length >= 120) break;
  }
  times.sort((a, b) => a - b);
  const odd = times.slice(1, -4).filter((t, i) => Math.abs((t - times[i]) * rate - 1) > 0.1).length;
  return odd > times.length / 50;
}

async function probeAudio(track: InputAudioTrack): Promise<Probe> {
  if (!(await track.canDecode()))
    return refused(say`This sound is in a form the browser cannot decode. Save it as WAV, MP3, M4A, OGG or FLAC and import that.`);
  const duration = await track.computeDuration();
  if (!(duration > 0)) return refused(say`There is no sound in this file: it ends before it begins. Copy it again, whole.`);
  if (!Number.isFinite(duration)) return refused(NO_INDEX);
  if (duration > 2 * LONGEST_TAKE)
    return refused(say`This sound is ${Math.round(duration / 60)} minutes long. Up to two hours are taken in.`);
  if (!(await decodes(new AudioSampleSink(track).samples())))
    return refused(say`Its sound cannot be decoded: the file is damaged. Save it again as WAV, MP3, M4A, OGG or FLAC and import that.`);
  const codec = (await track.getCodec()) ?? 'unknown';
  return {
    ok: true,
    media: {
      kind: 'audio',
      duration,
      width: 0,
      height: 0,
      rotation: 0,
      codec,
      fps: 0,
      variableRate: false,
      hasSound: true,
      colour: { matrix: 'bt709', fullRange: false },
    },
  };
}
