//! Secrets: what is handed out once and kept as its hash, and passwords.

use argon2::Argon2;
use argon2::password_hash::{PasswordHash, PasswordHasher, PasswordVerifier, SaltString};
use sha2::{Digest, Sha256};
use tokio::sync::Semaphore;
use uuid::Uuid;

use crate::aside::aside;
use crate::error::ApiError;

/// Argon2id takes 19 MB for each password: so many at once.
static AT_ONCE: Semaphore = Semaphore::const_new(4);

/// What a link, a token or a countersign carries: 244 random bits of the system's source.
#[must_use]
pub fn fresh() -> String {
    format!("{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple())
}

/// What is kept of it.
#[must_use]
pub fn hash(secret: &str) -> [u8; 32] {
    Sha256::digest(secret.as_bytes()).into()
}

/// What is kept of a password (Argon2id with the crate's numbers, which are those of OWASP: 19 MiB, 2 passes).
///
/// # Errors
/// 500 where the system gives no random numbers.
pub async fn of_password(password: String) -> Result<String, ApiError> {
    slowly(move || {
        let salt = SaltString::encode_b64(Uuid::new_v4().as_bytes())
            .map_err(|e| ApiError::Internal(e.to_string()))?;
        Argon2::default()
            .hash_password(password.as_bytes(), &salt)
            .map(|h| h.to_string())
            .map_err(|e| ApiError::Internal(e.to_string()))
    })
    .await?
}

/// Whether it is the password. Where there is none to compare with, it takes as long and says no.
///
/// # Errors
/// 500 where what is kept cannot be read.
pub async fn is_password(given: String, kept: Option<String>) -> Result<bool, ApiError> {
    // Of a password that nobody knows.
    const NOBODY: &str =
        "$argon2id$v=19$m=19456,t=2,p=1$bm9ib2R5IGlzIGhlcmU$9kdYyVgFOvo2YkDjEBdV8SmAqtzBIGRiEJ1P8dYwK4E";
    slowly(move || {
        let known = kept.is_some();
        let kept = kept.unwrap_or_else(|| NOBODY.to_owned());
        let parsed = PasswordHash::new(&kept).map_err(|e| ApiError::Internal(e.to_string()))?;
        Ok(Argon2::default().verify_password(given.as_bytes(), &parsed).is_ok() && known)
    })
    .await?
}

async fn slowly<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T, ApiError> {
    let turn = AT_ONCE.acquire().await.map_err(|e| ApiError::Internal(e.to_string()))?;
    aside(move || {
        let _turn = turn;
        work()
    })
    .await
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn a_password_is_known_again_and_nothing_else_is() {
        let kept = of_password("tern kettle slate".to_owned()).await.unwrap();
        assert!(kept.starts_with("$argon2id$v=19$m=19456,t=2,p=1$"), "OWASP's numbers: {kept}");
        let asked = |given: &str, kept: Option<&String>| is_password(given.to_owned(), kept.cloned());
        assert!(asked("tern kettle slate", Some(&kept)).await.unwrap());
        assert!(!asked("tern kettle slat", Some(&kept)).await.unwrap());
        assert!(!asked("nobody is here", None).await.unwrap());
        assert_ne!(kept, of_password("tern kettle slate".to_owned()).await.unwrap(), "salted");
        assert!(fresh() != fresh() && fresh().len() == 64);
    }
}
