import { describe, expect, it } from 'vitest';
import { synthesiseSong } from '@/core/room';
import { analyseSong, LoudnessMeter } from '@/core/song';
import { findInSong } from './song';

const RATE = 22050;
const { channels } = synthesiseSong({ sampleRate: RATE });
const CHUNK = 65_536;

/** A song passed on as it is decoded, in stretches; and how many of them were heard. */
async function passedOn(channelsOf: readonly Float32Array[]) {
  const { port1, port2 } = new MessageChannel();
  let heard = 0;
  port1.onmessage = () => {
    heard++;
  };
  const finding = findInSong(port2);
  let sent = 0;
  const length = channelsOf[0]?.length ?? 0;
  for (let i = 0; i < length; i += CHUNK, sent++)
    port1.postMessage({ sampleRate: RATE, channels: channelsOf.map((c) => c.slice(i, i + CHUNK)) });
  port1.postMessage('over');
  const found = await finding;
  await expect.poll(() => heard).toBe(sent);
  port1.close();
  return found;
}

describe('a song that comes in stretches', () => {
  it('has the beats, hits and parts that it has as one, and each stretch is told as heard', async () => {
    const found = await passedOn(channels);
    const asOne = analyseSong(channels, RATE);
    expect(asOne.map?.beats.length).toBeGreaterThan(20);
    expect(found?.map).toEqual(asOne.map);
    expect(found?.hits).toEqual(asOne.hits);
    expect(found?.parts).toEqual(asOne.parts);
    const meter = new LoudnessMeter(RATE);
    meter.push(channels);
    expect(found?.loudness.integrated).toBeCloseTo(meter.read().integrated, 6);
    expect(found?.peaks.sampleRate).toBe(RATE);
    expect(found?.duration).toBe(asOne.duration);
  });

  it('is nothing where there is no sound that can be decoded', async () => {
    expect(await passedOn([])).toBeNull();
  });

  it('says so where it is too short or silent', async () => {
    expect((await passedOn([channels[0].subarray(0, 2 * RATE)]))?.reason).toMatch(/too short/);
    expect((await passedOn([new Float32Array(10 * RATE)]))?.reason).toMatch(/silent/);
  });

  it('fails where what is passed on cannot be heard', async () => {
    const { port1, port2 } = new MessageChannel();
    const finding = findInSong(port2);
    port1.postMessage({ sampleRate: RATE, channels: null });
    await expect(finding).rejects.toThrow();
    port1.close();
  });
});
