//! A talk with a server that may never answer. What a server does not answer cannot be interrupted
//! from inside a client library, so the talk runs in a thread of its own; the caller waits for its
//! steps and leaves when one takes too long.

use std::sync::mpsc::{RecvTimeoutError, channel};
use std::time::{Duration, Instant};

use crate::address::Address;
use crate::clients::Script;
use crate::{CatalogError, Patience, Wanted};

impl Patience {
    /// How long a step may take, and the name of that limit in the configuration.
    fn of_step(&self, step: &str) -> (Duration, &'static str) {
        if step == CONNECTING { (self.connect, "connect") } else { (self.answer, "answer") }
    }
}

/// The step that begins every talk.
pub(crate) const CONNECTING: &str = "connecting";

/// How often somebody who waits is told so.
const TICK: Duration = Duration::from_secs(1);

enum Event {
    Step(String),
    Done(Box<Result<Script, CatalogError>>),
}

/// Runs a talk and waits for it within the limits. `progress` is told each step, and every second
/// how long it has taken.
pub(crate) fn within<Talk>(
    address: &Address,
    wanted: &Wanted,
    progress: &dyn Fn(&str, u64),
    talk: Talk,
) -> Result<Script, CatalogError>
where
    Talk: FnOnce(&Address, &Wanted, &dyn Fn(&str)) -> Result<Script, CatalogError> + Send + 'static,
{
    let (tell, hear) = channel();
    let (own_address, own_wanted) = (address.clone(), wanted.clone());
    std::thread::spawn(move || {
        let step = |name: &str| drop(tell.send(Event::Step(name.to_owned())));
        let done = talk(&own_address, &own_wanted, &step);
        // Nobody hears it when the caller has left.
        let _ = tell.send(Event::Done(Box::new(done)));
    });
    let began = Instant::now();
    let (mut step, mut since) = (CONNECTING.to_owned(), began);
    loop {
        let (limit, name) = wanted.patience.of_step(&step);
        let whole = wanted.patience.total;
        let until = (since + limit).min(began + whole);
        let left = until.saturating_duration_since(Instant::now());
        match hear.recv_timeout(left.min(TICK)) {
            Ok(Event::Step(next)) => {
                progress(&next, 0);
                (step, since) = (next, Instant::now());
            }
            Ok(Event::Done(done)) => return *done,
            Err(RecvTimeoutError::Timeout) if Instant::now() < until => {
                progress(&step, since.elapsed().as_secs())
            }
            Err(RecvTimeoutError::Timeout) => {
                let over = began.elapsed() >= whole;
                let (seconds, limit) =
                    if over { (whole.as_secs(), "total") } else { (limit.as_secs(), name) };
                return Err(CatalogError::Silent {
                    address: address.shown.clone(),
                    step,
                    seconds,
                    limit,
                });
            }
            Err(RecvTimeoutError::Disconnected) => {
                let why = "reading it came to an end that was not foreseen".to_owned();
                return Err(CatalogError::Broken { address: address.shown.clone(), why });
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use sprachbund_core::schema::Database;

    use super::*;
    use crate::address::AddressText;

    /// A talk of these steps, each with how long it takes, under limits of 200, 400 and 900
    /// milliseconds.
    fn talk(steps: &'static [(&'static str, u64)]) -> Result<Script, CatalogError> {
        let address = AddressText::of("postgresql://pilot@quay/harbour")
            .and_then(|text| crate::address::Address::of(&text).ok())
            .expect("an address");
        let limit = Duration::from_millis;
        let patience = Patience { connect: limit(200), answer: limit(400), total: limit(900) };
        let wanted = Wanted { patience, ..Wanted::default() };
        within(&address, &wanted, &|_, _| {}, move |_, _, progress| {
            for (step, takes) in steps {
                progress(step);
                std::thread::sleep(limit(*takes));
            }
            Ok(Script {
                text: String::new(),
                database: Database::PostgreSql,
                release: None,
                children: Vec::new(),
            })
        })
    }

    #[test]
    fn each_limit_is_kept() {
        for (steps, limit) in [
            (&[(CONNECTING, 0), ("tables", 100)][..], None),
            (&[(CONNECTING, 5000)], Some("connect")),
            (&[(CONNECTING, 0), ("tables", 5000)], Some("answer")),
            (
                &[("tables", 300), ("columns", 300), ("indexes", 300), ("checks", 300)],
                Some("total"),
            ),
        ] {
            let reached = match talk(steps) {
                Err(CatalogError::Silent { limit, .. }) => Some(limit),
                _ => None,
            };
            assert_eq!(reached, limit, "{steps:?}");
        }
    }
}
