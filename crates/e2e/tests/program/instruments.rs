//! The simulated instruments as processes of their own, spoken with over TCP as the document says.

use cobaltine_e2e::binary;
use std::io::{BufRead, BufReader, Write};
use std::net::TcpStream;
use std::process::{Child, Command, Stdio};
use std::time::Duration;

struct Running(Child, String);

impl Running {
    fn start(kind: &str, fuel: &str) -> Self {
        let mut command = Command::new(binary().unwrap());
        let words = ["instrument", kind, "--fuel", fuel, "--listen", "127.0.0.1:0"];
        let mut child = command.args(words).stdout(Stdio::piped()).spawn().unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
        let address = line.split(" at ").nth(1).and_then(|rest| rest.split(' ').next());
        let address = address.unwrap_or_else(|| unreachable!("{line}")).to_owned();
        Self(child, address)
    }

    fn connect(&self) -> BufReader<TcpStream> {
        let stream = TcpStream::connect(&self.1).unwrap();
        stream.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
        BufReader::new(stream)
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

fn line(talk: &mut BufReader<TcpStream>) -> String {
    let mut line = String::new();
    talk.read_line(&mut line).unwrap();
    line.trim_end().to_owned()
}

/// Every dialogue of `docs/instruments.md`, line by line.
#[test]
fn each_dialogue_of_the_document_is_what_the_simulated_instrument_says() {
    let document = include_str!("../../../../docs/instruments.md");
    let mut replayed = 0;
    for block in document.split("```dialogue ").skip(1) {
        let block = block.split("```").next().unwrap();
        let (head, lines) = block.split_once('\n').unwrap();
        let (kind, fuel) = head.split_once(' ').unwrap();
        let device = Running::start(kind, fuel);
        let mut talk = device.connect();
        for said in lines.lines().filter(|line| !line.is_empty()) {
            match said.split_at(2) {
                ("> ", ask) => writeln!(talk.get_mut(), "{ask}").unwrap(),
                ("< ", begins) => {
                    let answer = line(&mut talk);
                    let fits = !answer.is_empty() && answer.starts_with(begins);
                    assert!(fits, "{kind}: {answer}, not {begins}");
                }
                _ => unreachable!("{said}"),
            }
        }
        replayed += 1;
    }
    assert_eq!(replayed, 9, "one for each kind");
}
