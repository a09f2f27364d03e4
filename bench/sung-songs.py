"""Songs with a voice over them, in a room, and pressed, to fit on: sung-songs.py IN OUT

Takes IN/wav/NAME.wav with IN/truth/NAME.json (`beats`, `downbeats`, seconds) and makes OUT/wav/NAME-sung.wav and its truth; what was played
again or is sung over is left out. The voice is made up: syllables about the beats, as loosely as people sing, with hisses before some, over
the song by what is thrown. Some songs are ducked at their beats.
Needs (Debian): python3-scipy, and what `midi_sound.py` needs.
"""
import glob, json, os, re, sys
from multiprocessing import Pool

import numpy as np
from scipy.io import wavfile
from scipy.signal import butter, fftconvolve, lfilter, sosfilt

from midi_sound import write_truth

# Formants of ten vowels of men, Hz (Peterson and Barney, 1952), how wide each is and how loud.
VOWELS = (
    (270, 2290, 3010), (390, 1990, 2550), (530, 1840, 2480), (660, 1720, 2410), (730, 1090, 2440), (570, 840, 2410), (440, 1020, 2240),
    (300, 870, 2240), (640, 1190, 2390), (490, 1350, 1690),
)
WIDE, LOUD = (80, 100, 140), (1, 0.6, 0.35)
SCALES = ((0, 2, 4, 7, 9, 12, 14), (0, 3, 5, 7, 10, 12, 15))


def level(samples):
    return np.sqrt(np.mean(samples**2)) + 1e-9


def resonance(samples, rate, hz, wide):
    r, w = np.exp(-np.pi * wide / rate), 2 * np.pi * hz / rate
    return lfilter([1 - r], [1, -2 * r * np.cos(w), r * r], samples)


def syllable(rng, rate, hz, seconds, higher):
    """A vowel of a pitch, glided to and trembling; and the samples of hiss before it."""
    n = int(seconds * rate)
    t = np.arange(n) / rate
    trembles = 30 * np.sin(2 * np.pi * (5.5 * t + rng.random())) * np.clip(5 * t - 1, 0, 1)
    cents = rng.choice((0, -100, -200, 100)) * np.exp(-20 * t) + trembles + 0.16 * np.cumsum(rng.standard_normal(n))
    source = 2 * (np.cumsum(hz * 2 ** (cents / 1200) / rate) % 1) - 1 + 0.05 * rng.standard_normal(n)
    vowel = sum(loud * resonance(source, rate, f * higher, wide) for f, wide, loud in zip(rng.choice(VOWELS), WIDE, LOUD))
    vowel *= np.clip(t / rng.uniform(0.015, 0.065), 0, 1) * np.clip((seconds - t) / 0.06, 0, 1)
    hiss = int(rng.uniform(0.02, 0.11) * rate)
    band = butter(2, (rng.uniform(2500, 5500), rng.uniform(8000, 13000)), 'band', fs=rate, output='sos')
    hissed = sosfilt(band, rng.standard_normal(hiss)) * np.hanning(hiss)
    return np.concatenate([rng.choice((0, 0, 0.2, 0.4, 0.7)) * hissed / level(hissed), vowel / level(vowel)]), hiss


def voice(rng, rate, beats, meter, count):
    """Lines of syllables, with rests between."""
    out, last = np.zeros(count), len(beats) - 1
    second = lambda beat: np.interp(beat, np.arange(len(beats)), beats)
    woman = rng.random() < 0.5
    low = 110 * 2 ** (rng.integers(14) / 12) * (1.8 if woman else 1)
    scale, each, dense = SCALES[rng.integers(2)], rng.choice((2, 2, 3, 4)), rng.uniform(0.35, 0.8)
    late, loose = rng.uniform(-0.02, 0.05), rng.uniform(0.01, 0.04)
    begins, step = 0, 2
    while begins < last - 1:
        long = rng.integers(1, 3) * meter + rng.integers(-1, 2)
        from_beat = begins + 0.5 * rng.integers(-2, 3)
        places = [from_beat + i / each for i in range(long * each) if rng.random() < dense] if rng.random() < 0.8 else []
        places = [p for p in places if 0 <= p < last - 0.2]
        for place, then in zip(places, [*places[1:], places[-1] + rng.uniform(0.8, 2)] if places else []):
            step = int(np.clip(step + rng.integers(-2, 3), 0, len(scale) - 1))
            seconds = (second(min(then, last)) - second(place)) * rng.uniform(0.6, 1)
            sung, hiss = syllable(rng, rate, low * 2 ** (scale[step] / 12), np.clip(seconds, 0.09, 2.5), 1.17 if woman else 1)
            at = int((second(place) + late + loose * rng.standard_normal()) * rate) - hiss
            if at >= 0:
                out[at : at + len(sung)] += rng.uniform(0.6, 1) * sung[: max(0, count - at)]
        begins += long + rng.choice((0, 0, 1, 2, meter))
    return out


def ducked(rng, rate, samples, beats):
    """The song as a compressor that hears only its beats leaves it."""
    deep, back = rng.uniform(0.3, 0.75), int(rng.uniform(0.15, 0.35) * rate)
    gain, recovers = np.ones(len(samples)), 1 - deep * (1 - np.arange(back) / back)
    for beat in beats:
        part = gain[int(beat * rate) :][:back]
        np.minimum(part, recovers[: len(part)], out=part)
    return samples * gain


def in_a_room(rng, rate, samples):
    n = int(rng.uniform(0.3, 1.8) * rate)
    rings = rng.standard_normal(n) * np.exp(-6.9 * np.arange(n) / n) * np.clip(np.arange(n) / (0.01 * rate), 0, 1)
    return samples + rng.uniform(0.1, 0.6) * fftconvolve(samples, rings / np.sqrt(np.sum(rings**2)))[: len(samples)]


def pressed(rng, samples):
    loud = np.tanh(rng.uniform(0.8, 2.5) * samples / (np.percentile(abs(samples), 99.9) + 1e-9))
    return loud / max(1e-9, abs(loud).max())


def sung(source, out, name):
    to = f'{name}-sung'
    if os.path.exists(f'{out}/truth/{to}.json'):
        return
    rng = np.random.default_rng(list(name.encode()))
    with open(f'{source}/truth/{name}.json') as f:
        truth = json.load(f)
    rate, samples = wavfile.read(f'{source}/wav/{name}.wav')
    song = (samples if samples.ndim == 1 else samples.mean(1)) / 32768
    lines = truth.get('downbeats') or []
    meter = max(1, round(len(truth['beats']) / len(lines))) if lines else 4
    if rng.random() < 0.2:
        song = ducked(rng, rate, song, truth['beats'])
    over = voice(rng, rate, np.array(truth['beats']), meter, len(song))
    heard = abs(over) > 1e-4
    gain = 10 ** (rng.uniform(-4, 5) / 20) * level(song) / level(over[heard]) if heard.any() else 0
    samples = 32000 * pressed(rng, in_a_room(rng, rate, song + gain * over))
    wavfile.write(f'{out}/wav/{to}.wav', rate, samples.astype(np.int16))
    write_truth(out, to, truth.get('group', name), truth['beats'], lines)


if __name__ == '__main__':
    if len(sys.argv) != 3:
        sys.exit(__doc__)
    source, out = sys.argv[1:]
    for part in ('wav', 'truth'):
        os.makedirs(os.path.join(out, part), exist_ok=True)
    names = [os.path.basename(path)[:-4] for path in sorted(glob.glob(f'{source}/wav/*.wav'))]
    with Pool(os.cpu_count()) as pool:
        pool.starmap(sung, [(source, out, name) for name in names if not re.search('-again|-sung', name)], chunksize=4)
