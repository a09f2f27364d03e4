"""Songs with exact beats out of Debian's game packages, to judge and to fit how beats are found: game-music.py OUT

Makes wav/NAME.wav and truth/NAME.json (beats and downbeats, seconds; group, whose songs are kept out together) in
OUT/module and OUT/midi from
  - tracker modules, played by libopenmpt: a beat is four rows (by convention of the format; eight or sixteen where rows go by faster),
  - the MIDI files in `freedoom` and a few others, played by fluidsynth: a beat is a quarter.
Needs (Debian): python3-mido python3-numpy ffmpeg fluidsynth fluid-soundfont-gm timgm6mb-soundfont libopenmpt0, and apt-get for the packages.
"""
import ctypes, glob, hashlib, io, json, os, struct, subprocess, sys, wave

import mido
import numpy as np

MODULES = '''armagetronad ballz-data biniax2-data bomberclone-data bugsquish ceferino-data circuslinux-data criticalmass-data
cuyo-data dodgindiamond2 fb-music-high flobopuyo freedroid-data gemdropx gl-117-data gltron gweled heroes-sound-tracks madbomber-data
monsterz-data njam-data open-invaders-data pekka-kana-2-data penguin-command pingus-data rafkill-data ri-li-data rockdodger solarwolf
tecnoballz-data tomatoes-data tuxmath-data tuxtype-data vectoroids vodovod vor'''.split()
MIDI = 'freedoom kobodeluxe-data pinball-table-hurd-data liquidwar-data crimson'.split()
KICK_AND_SNARE = (35, 36, 38, 40)
RATE, LONGEST, STEP = 44100, 100, 64
FONTS = ['/usr/share/sounds/sf2/FluidR3_GM.sf2', '/usr/share/sounds/sf2/TimGM6mb.sf2']


def fetch(packages, package):
    """Where a package's files lie; fetched once."""
    to = os.path.join(packages, package)
    if not os.path.isdir(to):
        os.makedirs(to)
        subprocess.run(['apt-get', 'download', '-qq', package], cwd=to, stderr=subprocess.DEVNULL, check=False)
        for deb in glob.glob(f'{to}/*.deb'):
            subprocess.run(['dpkg-deb', '-x', deb, to], check=True)
            os.remove(deb)
    return to


def files(folder, *endings):
    return sorted(f for f in glob.glob(f'{folder}/**/*', recursive=True) if f.lower().endswith(endings) and os.path.getsize(f) > 2000)


def write(out, name, group, beats, downbeats, samples=None):
    if samples is not None:
        with wave.open(f'{out}/wav/{name}.wav', 'wb') as w:
            w.setnchannels(2)
            w.setsampwidth(2)
            w.setframerate(RATE)
            w.writeframes((samples * (29000 / max(1e-6, abs(samples).max()))).astype('<i2').tobytes())
    with open(f'{out}/truth/{name}.json', 'w') as f:
        json.dump({'group': group, 'beats': beats, 'downbeats': downbeats}, f)


def player():
    """Plays a module: its samples and (second, order, row, rows of its pattern) of each row."""
    lib = ctypes.CDLL('libopenmpt.so.0')
    lib.openmpt_module_create_from_memory.restype = ctypes.c_void_p
    handle = ctypes.c_void_p
    for name in ('get_current_row', 'get_current_order', 'get_current_pattern', 'get_num_orders', 'get_num_channels'):
        getattr(lib, 'openmpt_module_' + name).argtypes = [handle]
    lib.openmpt_module_get_order_pattern.argtypes = [handle, ctypes.c_int32]
    cell = lib.openmpt_module_get_pattern_row_channel_command
    cell.argtypes, cell.restype = [handle, *[ctypes.c_int32] * 3, ctypes.c_int], ctypes.c_uint8
    lib.openmpt_module_get_pattern_num_rows.argtypes = [handle, ctypes.c_int32]
    lib.openmpt_module_destroy.argtypes = [handle]
    read = lib.openmpt_module_read_interleaved_float_stereo
    read.argtypes, read.restype = [handle, ctypes.c_int32, ctypes.c_size_t, handle], ctypes.c_size_t

    def notes_by_row(module):
        rows = np.zeros(48)
        for order in range(lib.openmpt_module_get_num_orders(module)):
            pattern = lib.openmpt_module_get_order_pattern(module, order)
            for row in range(lib.openmpt_module_get_pattern_num_rows(module, pattern) if pattern >= 0 else 0):
                for channel in range(lib.openmpt_module_get_num_channels(module)):
                    rows[row % 48] += 0 < cell(module, pattern, row, channel, 0) < 121
        return rows

    def play(path):
        with open(path, 'rb') as f:
            data = f.read()
        module = lib.openmpt_module_create_from_memory(data, len(data), None, None, None)
        if not module or not in_fours(notes_by_row(module)):
            return None
        buffer, rows, parts, last = np.zeros(2 * STEP, np.float32), [], [], None
        while len(parts) * STEP < LONGEST * RATE and read(module, RATE, STEP, buffer.ctypes.data) == STEP:
            place = (lib.openmpt_module_get_current_order(module), lib.openmpt_module_get_current_row(module))
            if place != last:
                pattern = lib.openmpt_module_get_current_pattern(module)
                rows.append((len(parts) * STEP / RATE, *place, lib.openmpt_module_get_pattern_num_rows(module, pattern)))
                last = place
            parts.append(buffer.copy())
        lib.openmpt_module_destroy(module)
        return (np.concatenate(parts).reshape(-1, 2), rows) if parts else None

    return play


def in_fours(notes):
    """Whether most notes lie on every fourth row from the first on, and not on every third or sixth."""
    share = {n: np.array([notes[k::n].sum() for k in range(n)]) / max(1, notes.sum()) * n for n in (3, 4, 6, 8)}
    return share[4][0] >= max(1.15, 0.97 * share[4].max()) and share[3].max() < share[4][0] and share[6].max() <= 1.1 * share[8].max()


def rows_a_beat(rows):
    """Rows of a beat, 60 to 165 beats a minute; None where that is not clear."""
    usual = 60 / np.median(np.diff([r[0] for r in rows])) / 4
    if any(r[3] % 16 for r in rows) or 165 < usual < 215:
        return None
    return 4 if 60 <= usual <= 165 else 8 if 215 <= usual <= 330 else 16 if 430 <= usual <= 660 else None


def modules(packages, out):
    play, seen = player(), set()
    for package in MODULES:
        for path in files(fetch(packages, package), '.xm', '.it', '.s3m', '.mod'):
            name = os.path.basename(path).lower().replace('.', '_').replace(' ', '_')
            if name in seen:
                continue
            seen.add(name)
            played = play(path)
            if not played or len(played[0]) < 40 * RATE:
                continue
            samples, rows = played
            each = rows_a_beat(rows)
            if not each:
                continue
            beats = [t for t, _, row, _ in rows if row % each == 0]
            write(out, name, package, beats, [t for t, _, row, _ in rows if row % (4 * each) == 0], samples)


def midi_songs(folder):
    for path in files(folder, '.mid'):
        with open(path, 'rb') as f:
            yield os.path.basename(path).lower().replace('.', '_'), f.read()
    for path in files(folder, '.wad'):
        with open(path, 'rb') as f:
            wad = f.read()
        _, count, at = struct.unpack('<4sii', wad[:12])
        for i in range(count):
            place, size, lump = struct.unpack('<ii8s', wad[at + 16 * i : at + 16 * i + 16])
            if lump.startswith(b'D_') and wad[place : place + 4] == b'MThd':
                yield lump.rstrip(b'\0').decode().lower(), wad[place : place + size]


def midi(packages, out):
    seen = set()
    for package in MIDI:
        for name, data in midi_songs(fetch(packages, package)):
            key = hashlib.md5(data).hexdigest()
            try:
                song = mido.MidiFile(file=io.BytesIO(data))
            except (OSError, EOFError, ValueError, KeyError, IndexError):
                continue
            if key in seen or song.type == 2:
                continue
            seen.add(key)
            tick, notes, drums, tempos, bar = 0, [], [], [(0, 500000)], 4
            for event in mido.merge_tracks(song.tracks):
                tick += event.time
                if event.type == 'set_tempo':
                    tempos.append((tick, event.tempo))
                elif event.type == 'note_on' and event.velocity:
                    notes.append(tick)
                    if event.channel == 9 and event.note in KICK_AND_SNARE:
                        drums.append(round(2 * tick / song.ticks_per_beat) % 2)
                elif event.type == 'time_signature' and tick == 0:
                    bar = event.numerator if event.denominator == 4 else 0
            quarter = song.ticks_per_beat
            off = np.array(notes) / (quarter / 4)
            # What was not played to its own grid has no beats to be read from it; nor has what is struck midway between its quarters.
            if len(notes) < 200 or not bar or np.mean(abs(off - np.round(off)) < 0.12) < 0.85 or 2 * sum(drums) > len(drums):
                continue

            def second(at):
                time, start, micros = 0.0, 0, 500000
                for when, tempo in tempos:
                    if when > at:
                        break
                    time += (when - start) / quarter * micros / 1e6
                    start, micros = when, tempo
                return time + (at - start) / quarter * micros / 1e6

            kept = [(b, second(b * quarter)) for b in range(int(notes[0] // quarter), int(notes[-1] // quarter) + 1)]
            kept = [(b, t) for b, t in kept if t < LONGEST]
            if len(kept) < 40:
                continue
            mid, wav = f'{out}/{name}.mid', f'{out}/wav/{name}.wav'
            with open(mid, 'wb') as f:
                f.write(data)
            font = FONTS[len(seen) % 2]
            subprocess.run(['fluidsynth', '-q', '-ni', '-g', '0.5', '-r', str(RATE), '-F', wav + '.long.wav', font, mid], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=True)
            subprocess.run(['ffmpeg', '-v', 'error', '-y', '-i', wav + '.long.wav', '-t', str(LONGEST), wav], check=True)
            os.remove(wav + '.long.wav')
            write(out, name, name, [t for _, t in kept], [t for b, t in kept if b % bar == 0])


if __name__ == '__main__':
    if len(sys.argv) != 2:
        sys.exit(__doc__)
    for kind, make in (('midi', midi), ('module', modules)):
        for part in ('wav', 'truth'):
            os.makedirs(os.path.join(sys.argv[1], kind, part), exist_ok=True)
        make(os.path.join(sys.argv[1], 'packages'), os.path.join(sys.argv[1], kind))
