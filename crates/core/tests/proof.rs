//! What is heard in the sentence of a proof. Sentences of common practice, no source.

use owl_core::proof::ProofOutcome::{AsBefore, Better, Worse};
use owl_core::proof::heard;

#[test]
fn a_sentence_says_whether_the_set_is_better_as_before_or_worse() {
    let said = [
        ("plays, hum gone, 255 V at pin 6", Some(Better)),
        ("Plays. 182 V behind it, lukewarm after half an hour", Some(Better)),
        ("no hum any more", Some(Better)),
        ("much less crackle", Some(Better)),
        ("stations on long wave", Some(Better)),
        ("hum is cured", Some(Better)),
        ("spielt, Brumm weg", Some(Better)),
        ("no smoke, plays", Some(Better)),
        ("still silent", Some(AsBefore)),
        ("no change", Some(AsBefore)),
        ("same as before, 240 V on the plate", Some(AsBefore)),
        ("still no sound", Some(AsBefore)),
        ("not better", Some(AsBefore)),
        ("no worse", Some(AsBefore)),
        ("still hums", Some(AsBefore)),
        ("brummt immer noch", Some(AsBefore)),
        ("smokes", Some(Worse)),
        ("fuse blew at once", Some(Worse)),
        ("hums now", Some(Worse)),
        ("louder hum", Some(Worse)),
        ("plates red", Some(Worse)),
        ("worse", Some(Worse)),
    ];
    for (sentence, outcome) in said {
        assert_eq!(heard(sentence), outcome, "{sentence}");
    }
}

/// Led into calling something good that is not: what says two things, or none, is asked.
#[test]
fn what_says_two_things_or_none_is_asked() {
    let open = [
        "",
        "182 V at pin 6",
        "plays, but now it hums",
        "plays, still hums",
        "hum gone but smokes",
        "silent",
        "no sound",
        "does not play",
        "no smoke",
        "warm after half an hour",
    ];
    for sentence in open {
        assert_eq!(heard(sentence), None, "{sentence}");
    }
}
