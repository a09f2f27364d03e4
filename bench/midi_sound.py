"""MIDI songs as sound, by fluidsynth. Needs (Debian): fluidsynth ffmpeg fluid-soundfont-gm timgm6mb-soundfont musescore-general-soundfont-small."""
import json, os, subprocess

FONTS = [f'/usr/share/sounds/{font}' for font in ('sf2/FluidR3_GM.sf2', 'sf2/TimGM6mb.sf2', 'sf3/MuseScore_General_Lite.sf3')]
RATE = 44100


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
