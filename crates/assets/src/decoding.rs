//! The one door to the decoders of others: they may fail, and they may panic; neither reaches a caller.

use std::panic::{AssertUnwindSafe, catch_unwind};

use crate::pixels::PixelsError;

/// Calls a decoder. A panic of it is a broken file like any other: a program goes on, and so does the thread
/// that watches files. (Where panics abort, as in most builds for browsers, nothing can be caught; so what is
/// known to panic is refused beforehand.)
pub(crate) fn decode<T>(
    format: &str,
    decode: impl FnOnce() -> Result<T, PixelsError>,
) -> Result<T, PixelsError> {
    catch_unwind(AssertUnwindSafe(decode))
        .unwrap_or_else(|_| Err(PixelsError::broken(format, "its decoder gave up")))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_decoder_that_panics_is_an_error() {
        let silent = std::panic::take_hook();
        std::panic::set_hook(Box::new(|_| {}));
        let none: Vec<u8> = Vec::new();
        let broken = decode("PNG", || Ok(none[3]));
        std::panic::set_hook(silent);
        let error = broken.map_or_else(|error| error.to_string(), |byte| byte.to_string());
        assert!(
            error.starts_with("the PNG is broken or cut short: its decoder gave up"),
            "{error}"
        );
    }
}
