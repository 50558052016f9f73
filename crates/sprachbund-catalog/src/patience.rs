//! How long a server is waited for.

use std::time::Duration;

/// Limits of waiting. The thread of a talk that was given up ends with its connection, at the
/// latest with the process.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Patience {
    /// Until the server is reached and has let the user in.
    pub connect: Duration,
    /// Until one question is answered in full.
    pub answer: Duration,
    /// For everything together.
    pub total: Duration,
}

impl Default for Patience {
    fn default() -> Self {
        Patience {
            connect: Duration::from_secs(15),
            answer: Duration::from_secs(60),
            total: Duration::from_secs(300),
        }
    }
}
