//! The core alone on a microcontroller. The same program runs on a desk, and prints the same lines.

#![cfg_attr(target_os = "none", no_std, no_main)]

extern crate alloc;

mod night;

#[cfg(target_os = "none")]
mod chip {
    use core::fmt::Write;
    use core::panic::PanicInfo;

    use cortex_m_rt::entry;
    use cortex_m_semihosting::debug::{EXIT_FAILURE, EXIT_SUCCESS, exit};
    use cortex_m_semihosting::hio;
    use embedded_alloc::LlffHeap;

    #[global_allocator]
    static HEAP: LlffHeap = LlffHeap::empty();
    /// Of 64 kB; the rest is for the stack.
    const HEAP_BYTES: usize = 40 * 1024;

    #[entry]
    fn main() -> ! {
        // SAFETY: called once, before anything is allocated.
        #[allow(unsafe_code)]
        unsafe {
            embedded_alloc::init!(HEAP, HEAP_BYTES);
        }
        let played = hio::hstdout().is_ok_and(|mut out| {
            let ended = crate::night::play(&mut out, || HEAP.used());
            let printed = match &ended {
                Ok(()) => writeln!(out, "done"),
                Err(error) => writeln!(out, "{error}"),
            };
            ended.is_ok() && printed.is_ok()
        });
        exit(if played { EXIT_SUCCESS } else { EXIT_FAILURE });
        #[allow(clippy::empty_loop)] // there is nowhere to go back to
        loop {}
    }

    #[panic_handler]
    fn panic(_: &PanicInfo<'_>) -> ! {
        exit(EXIT_FAILURE);
        #[allow(clippy::empty_loop)]
        loop {}
    }
}

#[cfg(not(target_os = "none"))]
fn main() -> Result<(), alloc::boxed::Box<dyn std::error::Error>> {
    let mut text = String::new();
    night::play(&mut text, || 0)?;
    println!("{text}done");
    Ok(())
}
