"""Speaks lines by espeak-ng (Debian: espeak-ng) and says which sound begins at which sample.

Usage: espeak.py LINES OUT [VOICE [RATE [PITCH]]]
Writes OUT.wav (one channel, 16 bits) and OUT.json: {"rate", "sounds": [[first sample, mnemonic], ...]}.
"""
import ctypes
import json
import sys
import wave

RETRIEVAL = 1
PHONEME_EVENTS = 1
PHONEME, END = 7, 0
RATE, PITCH = 1, 3
UTF8 = 1


class Id(ctypes.Union):
    _fields_ = [("number", ctypes.c_int), ("name", ctypes.c_char_p), ("string", ctypes.c_char * 8)]


class Event(ctypes.Structure):
    _fields_ = [
        ("type", ctypes.c_int),
        ("unique_identifier", ctypes.c_uint),
        ("text_position", ctypes.c_int),
        ("length", ctypes.c_int),
        ("audio_position", ctypes.c_int),
        ("sample", ctypes.c_int),
        ("user_data", ctypes.c_void_p),
        ("id", Id),
    ]


def speak(lines, voice, rate, pitch):
    library = ctypes.CDLL("libespeak-ng.so.1")
    samples, sounds = bytearray(), []

    @ctypes.CFUNCTYPE(ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.POINTER(Event))
    def take(wav, count, events):
        if wav:
            samples.extend(ctypes.string_at(wav, 2 * count))
        at = 0
        while events[at].type != END:
            if events[at].type == PHONEME:
                sounds.append([events[at].sample, events[at].id.string.decode()])
            at += 1
        return 0

    per_second = library.espeak_Initialize(RETRIEVAL, 0, None, PHONEME_EVENTS)
    library.espeak_SetSynthCallback(take)
    if library.espeak_SetVoiceByName(voice.encode()) != 0:
        sys.exit(f"espeak-ng has no voice {voice}.")
    library.espeak_SetParameter(RATE, rate, 0)
    library.espeak_SetParameter(PITCH, pitch, 0)
    text = " ".join(lines).encode()
    library.espeak_Synth(text, len(text) + 1, 0, 0, 0, UTF8, None, None)
    library.espeak_Synchronize()
    return bytes(samples), per_second, sounds


def main():
    lines_path, out, *rest = sys.argv[1:]
    voice, rate, pitch = (rest + ["en-us", "150", "50"][len(rest):])[:3]
    lines = [line for line in open(lines_path, encoding="utf-8").read().splitlines() if line]
    samples, per_second, sounds = speak(lines, voice, int(rate), int(pitch))
    with wave.open(out + ".wav", "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(per_second)
        file.writeframes(samples)
    with open(out + ".json", "w", encoding="utf-8") as file:
        json.dump({"rate": per_second, "sounds": sounds}, file)


main()
