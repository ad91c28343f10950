"""What a control is to show, as MIDI 1.0 says it: the same message that the control itself would send."""


def midi_of(source: str, value: float) -> list[bytes]:
    """Messages for a control by its name, value 0..1; none for what is no MIDI control.

    >>> midi_of("midi 1 note 36", 1.0), midi_of("midi 2 cc 7", 0.5)
    ([b'\\x90$\\x7f'], [b'\\xb1\\x07@'])
    """
    words = source.split(" ")
    if words[0] != "midi" or not words[1].isdigit():
        return []
    channel, seven = int(words[1]) - 1 & 15, round(value * 127)
    match words[2:]:
        case ["note", number]:
            return [bytes([0x90 | channel, int(number) & 127, seven])]
        case ["cc", number]:
            return [bytes([0xB0 | channel, int(number) & 127, seven])]
        case ["bend"]:
            whole = round(value * 16383)
            return [bytes([0xE0 | channel, whole & 127, whole >> 7])]
    return []
