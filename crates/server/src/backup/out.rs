//! A file that nobody else reads, sealed by `age` on its way where that is wanted.

use std::fs::File;
use std::io::{self, Write};
use std::path::Path;
use std::process::{Child, ChildStdin, Stdio};

use anyhow::Context;

use super::programs::{ended, program};

/// A file on its way.
#[derive(Debug)]
pub(super) struct Out {
    file: File,
    sealing: Option<(Child, ChildStdin)>,
}

impl Out {
    /// Begins a file, for whoever has a key or for this machine alone.
    ///
    /// # Errors
    /// When it cannot be written, or `age` is missing.
    pub(super) fn to(path: &Path, recipient: Option<&str>) -> anyhow::Result<Self> {
        let file = private(path).with_context(|| format!("{} cannot be written", path.display()))?;
        let Some(key) = recipient else { return Ok(Self { file, sealing: None }) };
        let mut age = program("age", None)?;
        age.args(["--encrypt", "--recipient", key]).stdin(Stdio::piped()).stdout(file.try_clone()?);
        let mut child = age.stderr(Stdio::piped()).spawn()?;
        let into = child.stdin.take().context("age does not listen")?;
        Ok(Self { file, sealing: Some((child, into)) })
    }

    /// Ends it: whole, and on the disk; how many bytes.
    ///
    /// # Errors
    /// In the words of whoever failed.
    pub(super) fn finish(self) -> anyhow::Result<u64> {
        if let Some((child, into)) = self.sealing {
            drop(into);
            ended("age", child)?;
        }
        self.file.sync_all()?;
        Ok(self.file.metadata()?.len())
    }
}

impl Write for Out {
    fn write(&mut self, some: &[u8]) -> io::Result<usize> {
        match &mut self.sealing {
            Some((_, into)) => into.write(some),
            None => self.file.write(some),
        }
    }

    fn flush(&mut self) -> io::Result<()> {
        match &mut self.sealing {
            Some((_, into)) => into.flush(),
            None => self.file.flush(),
        }
    }
}

/// A new file that nobody else reads: everything of the workshop is in it.
fn private(path: &Path) -> io::Result<File> {
    use std::os::unix::fs::OpenOptionsExt;
    File::options().write(true).create(true).truncate(true).mode(0o600).open(path)
}
