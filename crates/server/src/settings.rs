//! What the settings of a server mean together, looked through before anything is started, with everything that is wrong
//! said at once.

use std::net::{IpAddr, SocketAddr};
use std::path::PathBuf;
use std::time::Duration;

use ipnet::IpNet;

use crate::backup::schedule::Plan;
use crate::config::Serve;
use crate::people::Access;
use crate::picture_store::PictureStore;

/// Settings that make sense together.
#[derive(Debug)]
pub struct Settings {
    /// Where to listen.
    pub listen: SocketAddr,
    /// Further names of the server.
    pub hosts: Vec<String>,
    /// How people come in.
    pub access: Access,
    /// The certificate and its key.
    pub tls: Option<(PathBuf, PathBuf)>,
    /// Who encrypts in front of it.
    pub proxies: Vec<IpAddr>,
    /// Where instruments may be.
    pub instruments: Vec<IpNet>,
    /// How backups are written by the server itself.
    pub backups: Option<Plan>,
    /// Where the bytes of pictures lie.
    pub pictures: PictureStore,
}

/// The variable that names a file of settings.
const FILE: &str = "OWL_CONFIG";

/// Reads the file of settings that `OWL_CONFIG` names, where it does; what stands in the environment stays.
///
/// # Errors
/// In words, with the line.
pub fn from_file() -> Result<(), String> {
    let Some(file) = std::env::var_os(FILE).map(PathBuf::from) else { return Ok(()) };
    dotenvy::from_path(&file).map_err(|e| match e {
        dotenvy::Error::LineParse(line, _) => {
            format!(
                "{}: '{}' is no setting: each line is NAME=value, or begins with #",
                file.display(),
                line.trim()
            )
        }
        e => format!("the settings in {} cannot be read: {e}", file.display()),
    })
}

/// The variables that belong to the scripts and the tests of the product, not to the server.
const OF_SCRIPTS: [&str; 14] = [
    "OWL_STATE",
    "OWL_URL",
    "OWL_METER",
    "OWL_PROGRAM",
    "OWL_PEOPLE_DATABASE",
    "OWL_CLUSTER_DIR",
    "OWL_POOLER",
    "OWL_CLUSTER_SCRIPT",
    "OWL_SPECS",
    "OWL_CHROMIUM",
    "OWL_NEEDS_NGSPICE",
    "OWL_NEEDS_LIBRARIES",
    "OWL_NEEDS_FUZZER",
    "OWL_WRITE_DOCS",
];

impl Settings {
    /// Looks a server's settings through.
    ///
    /// # Errors
    /// Everything that is wrong, a sentence each.
    pub fn of(serve: &Serve) -> Result<Self, Vec<String>> {
        let mut wrong = Vec::new();
        for host in &serve.allow_host {
            if !is_host(host) {
                wrong.push(format!(
                    "--allow-host (OWL_ALLOW_HOST): '{host}' is no name with a port, such as owl.workshop.example:8750"
                ));
            }
        }
        let alone = serve.listen.ip().is_loopback();
        let access = if serve.accounts { Access::Accounts } else { Access::Alone };
        let tls = match (&serve.tls_certificate, &serve.tls_key) {
            (Some(certificate), Some(key)) => Some((certificate.clone(), key.clone())),
            (None, None) => None,
            _ => {
                wrong.push(
                    "--tls-certificate and --tls-key belong together: one of them is missing".to_owned(),
                );
                None
            }
        };
        if !alone && access == Access::Alone {
            wrong.push(format!(
                "listening on {} lets every neighbour in, and nobody signs in: start it with --accounts (OWL_ACCOUNTS=true), \
                 or listen on 127.0.0.1",
                serve.listen
            ));
        }
        if !serve.proxy.is_empty() && access == Access::Alone {
            wrong.push(
                "a proxy brings people from elsewhere: start it with --accounts (OWL_ACCOUNTS=true)"
                    .to_owned(),
            );
        }
        if !alone && tls.is_none() && serve.proxy.is_empty() {
            wrong.push(format!(
                "passwords would cross the network as they are typed on {}: give --tls-certificate and --tls-key, or say \
                 with --proxy which address encrypts in front of it",
                serve.listen
            ));
        }
        if serve.listen.ip().is_unspecified() && serve.allow_host.is_empty() {
            wrong.push(format!(
                "listening on {} the server does not know its own name: say it with --allow-host \
                 (OWL_ALLOW_HOST=owl.workshop.example:{})",
                serve.listen,
                serve.listen.port()
            ));
        }
        let backups = serve.backup_folder.clone().map(|folder| Plan {
            folder,
            every: Duration::from_secs(u64::from(serve.backup_hours) * 3600),
            keep: usize::from(serve.backup_keep),
            recipient: serve.backup_recipient.clone(),
            curves_years: serve.curves_years,
        });
        if let Some(folder) = backups.as_ref().map(|b| &b.folder).filter(|f| !f.is_dir()) {
            wrong.push(format!(
                "--backup-folder (OWL_BACKUP_FOLDER): there is no folder {}",
                folder.display()
            ));
        }
        if let Some(key) = serve.backup_recipient.as_ref().filter(|k| !k.starts_with("age1")) {
            wrong.push(format!(
                "--backup-recipient (OWL_BACKUP_RECIPIENT): '{key}' is no key of age; 'age-keygen' prints one that begins with age1"
            ));
        }
        let pictures = serve.database.pictures().unwrap_or_else(|e| {
            wrong.push(format!("--picture-store (OWL_PICTURE_STORE): {e}"));
            PictureStore::default()
        });
        wrong.extend(misspelt(std::env::vars_os().filter_map(|(k, _)| k.into_string().ok())));
        if !wrong.is_empty() {
            return Err(wrong);
        }
        Ok(Self {
            listen: serve.listen,
            hosts: serve.allow_host.clone(),
            access,
            tls,
            proxies: serve.proxy.iter().map(IpAddr::to_canonical).collect(),
            instruments: serve.instrument_network.clone(),
            backups,
            pictures,
        })
    }

    /// Whether browsers reach the server encrypted.
    #[must_use]
    pub fn encrypted(&self) -> bool {
        self.tls.is_some() || !self.proxies.is_empty()
    }
}

/// A name or an address with a port, and nothing that stands for several.
fn is_host(host: &str) -> bool {
    let Some((name, port)) = host.rsplit_once(':') else { return false };
    let letters = |c: char| c.is_ascii_alphanumeric() || matches!(c, '.' | '-' | '[' | ']' | ':');
    !name.is_empty() && name.chars().all(letters) && port.parse::<u16>().is_ok_and(|p| p > 0)
}

/// Variables that look like settings and are none, each with the one that is nearest.
fn misspelt(names: impl Iterator<Item = String>) -> Vec<String> {
    let command = <crate::config::Config as clap::CommandFactory>::command();
    let all = std::iter::once(&command).chain(command.get_subcommands());
    let known: Vec<String> = all
        .flat_map(|c| c.get_arguments().filter_map(|a| a.get_env()).map(|e| e.to_string_lossy().into_owned()))
        .chain([FILE.to_owned()])
        .chain(OF_SCRIPTS.iter().map(|s| (*s).to_owned()))
        .collect();
    let mut strange: Vec<String> =
        names.filter(|n| n.starts_with("OWL_") && !known.iter().any(|k| k == n)).collect();
    strange.sort_unstable();
    let said = |name: String| {
        let alike = |known: &String| {
            let same = known.chars().zip(name.chars()).take_while(|(a, b)| a == b).count();
            let end = known.chars().rev().zip(name.chars().rev()).take_while(|(a, b)| a == b).count();
            same + end
        };
        let near = known.iter().max_by_key(|k| alike(k)).cloned().unwrap_or_default();
        format!("{name} is no setting; perhaps {near} was meant")
    };
    strange.into_iter().map(said).collect()
}

#[cfg(test)]
mod tests {
    use clap::Parser;

    use super::*;
    use crate::config::{Command, Config};

    fn settings(arguments: &[&str]) -> Result<Settings, Vec<String>> {
        let all = ["restless-owl", "serve", "--database-url", "postgres://owl@127.0.0.1/owl"];
        match Config::try_parse_from(all.iter().chain(arguments)).unwrap().command {
            Command::Serve(serve) => Settings::of(&serve),
            _ => panic!("serve was asked for"),
        }
    }

    #[test]
    fn alone_on_loopback_nothing_more_is_needed() {
        let alone = settings(&[]).unwrap();
        assert_eq!((alone.access, alone.encrypted()), (Access::Alone, false));
        assert_eq!(settings(&["--accounts"]).unwrap().access, Access::Accounts);
    }

    #[test]
    fn beyond_loopback_everything_that_is_missing_is_said_at_once() {
        let wrong = settings(&["--listen", "0.0.0.0:8750", "--allow-host", "*"]).unwrap_err();
        let all = wrong.join("\n");
        for said in ["'*' is no name with a port", "start it with --accounts", "passwords would cross"] {
            assert!(all.contains(said), "{said}: {all}");
        }
        let nameless = settings(&["--listen", "[::]:8750", "--accounts", "--proxy", "10.0.0.2"]).unwrap_err();
        assert!(nameless.join("").contains("does not know its own name"), "{nameless:?}");
        let half = settings(&["--tls-key", "key.pem"]).unwrap_err();
        assert!(half.join("").contains("belong together"), "{half:?}");
        assert!(settings(&["--proxy", "10.0.0.2"]).unwrap_err().join("").contains("--accounts"));
        let good = ["--listen", "192.168.1.4:443", "--accounts", "--tls-certificate", "a", "--tls-key", "b"];
        assert!(settings(&good).unwrap().encrypted());
    }

    #[test]
    fn a_misspelt_setting_is_named_with_the_one_that_was_meant() {
        let names = ["OWL_LISTN", "OWL_LISTEN", "OWL_STATE", "PATH"].map(str::to_owned);
        assert_eq!(misspelt(names.into_iter()), ["OWL_LISTN is no setting; perhaps OWL_LISTEN was meant"]);
    }

    #[test]
    fn a_host_is_one_name_with_a_port() {
        for good in ["owl.workshop.example:8750", "192.168.1.4:80", "[fd00::1]:443", "owl:1"] {
            assert!(is_host(good), "{good}");
        }
        for bad in ["*", "*:80", "owl", "owl:", "owl:0", "owl:99999", "http://owl:80", ":80", "a b:80"] {
            assert!(!is_host(bad), "{bad}");
        }
    }
}
