"""MIDI songs as sound, by fluidsynth. Needs (Debian): python3-mido fluidsynth ffmpeg fluid-soundfont-gm timgm6mb-soundfont musescore-general-soundfont-small."""
import json, os, random, subprocess, sys
from multiprocessing import Pool

import mido

FONTS = [f'/usr/share/sounds/{font}' for font in ('sf2/FluidR3_GM.sf2', 'sf2/TimGM6mb.sf2', 'sf3/MuseScore_General_Lite.sf3')]
RATE = 44100
TICKS = 480


def record(song, font, out, name, seconds):
    """Plays a MIDI song by a sound font into OUT/wav/NAME.wav, its first seconds."""
    mid, wav = f'{out}/{name}.mid', f'{out}/wav/{name}.wav'
    song.save(mid)
    play = ['fluidsynth', '-q', '-ni', '-g', '0.5', '-r', str(RATE), '-F', wav + '.long.wav', font, mid]
    subprocess.run(play, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=True)
    subprocess.run(['ffmpeg', '-v', 'error', '-y', '-i', wav + '.long.wav', '-t', str(seconds), wav], check=True)
    os.remove(wav + '.long.wav')
    os.remove(mid)


def write_truth(out, name, group, beats, downbeats):
    with open(f'{out}/truth/{name}.json', 'w') as f:
        json.dump({'group': group, 'beats': beats, 'downbeats': downbeats}, f)


def performed(notes, beats, programs, rng):
    """The song as MIDI, at 120 a minute whatever its tempo; by how much hands and drums are off is thrown."""
    loose, late = rng.choice((0, 0, 0.004, 0.008)), {c: rng.uniform(-0.006, 0.01) for c in range(16)}
    lazy = rng.random() < 0.4

    def second(beat):
        i = min(int(beat), len(beats) - 2)
        return beats[i] + (beat - i) * (beats[i + 1] - beats[i])

    events = [(0, 0, mido.Message('program_change', channel=c, program=p)) for c, p in programs.items()]
    for channel, note, beat, length, velocity in notes:
        at = max(0, second(beat) + rng.gauss(0, loose) + (late[channel] if lazy else 0))
        end = at + max(0.05, second(beat + length) - second(beat))
        velocity = max(1, min(127, round(velocity * rng.uniform(0.9, 1.05))))
        events.append((round(2 * TICKS * at), 2, mido.Message('note_on', channel=channel, note=note, velocity=velocity)))
        events.append((round(2 * TICKS * end), 1, mido.Message('note_off', channel=channel, note=note)))
    track, tick = mido.MidiTrack(), 0
    for at, _, message in sorted(events, key=lambda e: e[:2]):
        track.append(message.copy(time=at - tick))
        tick = at
    file = mido.MidiFile(ticks_per_beat=TICKS)
    file.tracks.append(track)
    return file


def made(out, group, k, song, seconds):
    """One made-up song with its truth, once. `song(group, rng)`: notes, beats of a bar, bars, beats a minute, programs."""
    name = f'{group}-{k}'.replace(' ', '_')
    if os.path.exists(f'{out}/truth/{name}.json'):
        return
    rng = random.Random(name)
    notes, meter, bars, bpm, programs = song(group, rng)
    beats, slow = [0.05 + rng.random()], 60 / bpm
    drifts = rng.random() < 0.2
    for _ in range(meter * bars):
        beats.append(beats[-1] + slow)
        if drifts:
            slow = min(1.04, max(0.96, slow * bpm / 60 * (1 + 0.004 * rng.gauss(0, 1)))) * 60 / bpm
    record(performed(notes, beats, programs, rng), rng.choice(FONTS), out, name, seconds)
    write_truth(out, name, group, beats[:-1], beats[:-1:meter])


def make_songs(usage, groups, song, each, seconds):
    """Made-up songs of each group, so many of it: into the folder, and as many, that the command says; `each` where it says none."""
    if len(sys.argv) not in (2, 3):
        sys.exit(usage)
    out, each = sys.argv[1], int(sys.argv[2]) if len(sys.argv) == 3 else each
    for part in ('wav', 'truth'):
        os.makedirs(os.path.join(out, part), exist_ok=True)
    with Pool(os.cpu_count()) as pool:
        pool.starmap(made, [(out, group, k, song, seconds) for group in groups for k in range(each)])
