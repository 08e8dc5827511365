//! The result of a call, and the last problem in words.

use std::cell::RefCell;
use std::ffi::{CString, c_char};
use std::fmt::Display;
use std::panic::{AssertUnwindSafe, catch_unwind};

use lucky_reel::CommandError;

/// The result of a call.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LuckyStatus {
    /// Done.
    Ok = 0,
    /// Done, and there is nothing: nothing to draw, or no such member any more.
    Nothing = 1,
    /// A pointer is null that must not be, or not aligned as its type must be.
    Null = 2,
    /// A text is not UTF-8.
    NotText = 3,
    /// A name, a number or an id that this reel does not know.
    Unknown = 4,
    /// A number is out of range.
    Range = 5,
    /// Files or saves cannot be loaded.
    Load = 6,
    /// There are too many.
    Full = 7,
    /// A fault of the library; please report it.
    Bug = 8,
    /// The play has ended or was stopped, so that nothing can follow it.
    Over = 9,
    /// The fact is of another role.
    OtherRole = 10,
    /// The member is a player, which has no facts and no facing.
    NotAnActor = 11,
}

/// A status that is not `LUCKY_STATUS_OK`, and what is wrong in words.
pub(crate) struct Problem(pub(crate) LuckyStatus, pub(crate) String);

impl Problem {
    pub(crate) fn unknown(error: impl Display) -> Problem {
        Problem(LuckyStatus::Unknown, error.to_string())
    }

    pub(crate) fn range(error: impl Display) -> Problem {
        Problem(LuckyStatus::Range, error.to_string())
    }
}

impl From<CommandError> for Problem {
    fn from(error: CommandError) -> Problem {
        let status = match error {
            CommandError::OtherRole => LuckyStatus::OtherRole,
            CommandError::Value | CommandError::OutOfRange { .. } => LuckyStatus::Range,
            CommandError::Over => LuckyStatus::Over,
            CommandError::Gone => LuckyStatus::Nothing,
            CommandError::NotAnActor => LuckyStatus::NotAnActor,
            CommandError::TooManyLooks
            | CommandError::TooManyOutfits
            | CommandError::TooManyMembers
            | CommandError::TooManyGroups => LuckyStatus::Full,
            _ => LuckyStatus::Unknown,
        };
        Problem(status, error.to_string())
    }
}

thread_local! {
    static LAST: RefCell<CString> = RefCell::default();
}

/// Does the work of a call. Nothing unwinds into C.
pub(crate) fn call(work: impl FnOnce() -> Result<LuckyStatus, Problem>) -> LuckyStatus {
    let done = catch_unwind(AssertUnwindSafe(work));
    match done.unwrap_or_else(|_| Err(Problem(LuckyStatus::Bug, "the library has a fault".into())))
    {
        Ok(status) => status,
        Err(Problem(status, text)) => {
            // A zero would end the text early.
            let text = CString::new(text.replace('\0', "?")).unwrap_or_default();
            LAST.with(|last| *last.borrow_mut() = text);
            status
        }
    }
}

/// As [`call`], for work that only succeeds or fails.
pub(crate) fn done(work: impl FnOnce() -> Result<(), Problem>) -> LuckyStatus {
    call(|| work().map(|()| LuckyStatus::Ok))
}

/// The last problem on this thread, in words, with how to fix it; empty before the first. The text stays as
/// it is until the next problem on this thread.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_last_problem() -> *const c_char {
    LAST.with(|last| last.borrow().as_ptr())
}
