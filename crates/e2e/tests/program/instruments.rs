//! The simulated instruments as processes of their own, spoken with over TCP as the document says.

use anyhow::Context;
use cobaltine_e2e::binary;
use std::io::{BufRead, BufReader, Write};
use std::net::TcpStream;
use std::process::{Child, Command, Stdio};
use std::time::Duration;

struct Running(Child, String);

impl Running {
    fn start(kind: &str, fuel: &str) -> anyhow::Result<Self> {
        let mut command = Command::new(binary()?);
        let words = ["instrument", kind, "--fuel", fuel, "--listen", "127.0.0.1:0"];
        let mut child = command.args(words).stdout(Stdio::piped()).spawn()?;
        let mut line = String::new();
        BufReader::new(child.stdout.take().context("no output")?).read_line(&mut line)?;
        let address = line.split(" at ").nth(1).and_then(|rest| rest.split(' ').next());
        let address = address.context("no address")?.to_owned();
        Ok(Self(child, address))
    }

    fn connect(&self) -> anyhow::Result<BufReader<TcpStream>> {
        let stream = TcpStream::connect(&self.1)?;
        stream.set_read_timeout(Some(Duration::from_secs(20)))?;
        Ok(BufReader::new(stream))
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Every dialogue of `docs/instruments.md`, line by line.
#[test]
fn each_dialogue_of_the_document_is_what_the_simulated_instrument_says() -> anyhow::Result<()> {
    let document = include_str!("../../../../docs/instruments.md");
    let mut replayed = 0;
    for block in document.split("```dialogue ").skip(1) {
        let block = block.split("```").next().unwrap_or_default();
        let (head, lines) = block.split_once('\n').context("no lines")?;
        let (kind, fuel) = head.split_once(' ').context("no fuel")?;
        let device = Running::start(kind, fuel)?;
        let mut talk = device.connect()?;
        for said in lines.lines().filter(|line| !line.is_empty()) {
            if let Some(ask) = said.strip_prefix("> ") {
                writeln!(talk.get_mut(), "{ask}")?;
            } else {
                let begins = said.strip_prefix('<').context("neither asked nor answered")?.trim();
                let mut answer = String::new();
                talk.read_line(&mut answer)?;
                let fits = !answer.trim().is_empty() && answer.starts_with(begins);
                assert!(fits, "{kind}: {answer}, not {begins}");
            }
        }
        replayed += 1;
    }
    assert_eq!(replayed, 9, "one for each kind");
    Ok(())
}
