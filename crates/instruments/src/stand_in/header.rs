//! Matching a command's header in its long and its short form (SCPI-1999, volume 1, 6.2: memory): `CONFigure` is written
//! `CONF` or `CONFIGURE`, upper and lower case alike, and nothing between.

/// Whether what was typed is `pattern`: nodes with their short form in capitals, parted by colons.
#[must_use]
pub fn is(typed: &str, pattern: &str) -> bool {
    let typed = typed.trim_start_matches(':');
    let (mut a, mut b) = (typed.split(':'), pattern.split(':'));
    loop {
        match (a.next(), b.next()) {
            (None, None) => return true,
            (Some(t), Some(p)) if node(t, p) => {}
            _ => return false,
        }
    }
}

fn node(typed: &str, pattern: &str) -> bool {
    let short: String = pattern.chars().filter(|c| !c.is_ascii_lowercase()).collect();
    typed.eq_ignore_ascii_case(pattern) || typed.eq_ignore_ascii_case(&short)
}

#[cfg(test)]
mod tests {
    use super::is;

    #[test]
    fn long_and_short_forms_and_nothing_between() {
        for typed in ["CONF:CAP", "configure:capacitance", ":Conf:CAPACITANCE", "CONFigure:CAP"] {
            assert!(is(typed, "CONFigure:CAPacitance"), "{typed}");
        }
        for typed in ["CONFI:CAP", "CONF", "CONF:CAP:DC", "CO:CAP", "", "CONF::CAP"] {
            assert!(!is(typed, "CONFigure:CAPacitance"), "{typed}");
        }
        assert!(is("SYST:ERR?", "SYSTem:ERRor?") && is("SYSTEM:ERROR?", "SYSTem:ERRor?"));
    }
}
