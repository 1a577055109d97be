//! The library, a calculator, and an instrument that cannot decide, through the real interface.

use crate::{ENTER, open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};
use serde_json::Value;

#[tokio::test(flavor = "multi_thread")]
async fn what_is_measured_with_and_judged_by() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;
    two_bad_rows_do_not_spoil_the_good_ones(&browser, &program).await?;
    a_calculator_follows_the_typing_and_its_address_carries_it(&browser, &program).await?;
    an_instrument_that_cannot_decide_says_what_would(&browser, &program).await?;
    a_rule_of_the_house_stands_beside_the_next_result(&browser, &program).await?;
    cells_are_kept_as_they_are_left(&browser, &program).await?;
    a_family_and_its_first_limit_by_hand(&browser, &program).await?;
    the_house_s_own_reference_is_offered_and_followed(&browser, &program).await?;
    shelves_fit_a_tablet(&browser, &program).await?;
    twenty_thousand_limits_keep_up_with_the_typing(&browser).await?;
    browser.client.clone().close().await?;
    Ok(())
}

/// What a key may wait for its picture, ms.
const LONGEST_WAIT_MS: f64 = 200.0;
/// How much slower a busy machine may be before this story says that the program is.
const BUSY: f64 = 3.0;

/// From a key to the next picture, as the browser itself counts it, with a full library.
async fn twenty_thousand_limits_keep_up_with_the_typing(browser: &Browser) -> anyhow::Result<()> {
    let program = Program::demo_with(&["--limits", "20000"])?;
    browser.resize(1280, 800).await?;
    sit_down(browser, &program).await?;
    browser.go(&format!("{}/library", program.address)).await?;
    browser.read("entries").await?;
    let counted = "return PerformanceObserver.supportedEntryTypes.includes('event')";
    assert_eq!(browser.script(counted).await?, true, "nothing would be counted");
    browser
        .script(
            "window.waits = []; const seen = new PerformanceObserver(list => \
             window.waits.push(...list.getEntries().map(e => [e.name, e.duration]))); \
             seen.observe({type: 'event', durationThreshold: 16}); \
             seen.observe({type: 'longtask'})",
        )
        .await?;
    // Other stories share the two cores: what counts is the quietest of three passes.
    let mut longest = f64::INFINITY;
    for _ in 0..3 {
        longest = longest.min(longest_wait(browser).await?);
        println!("library of 20,000 limits: longest wait of a key {longest} ms");
        if longest < LONGEST_WAIT_MS {
            break;
        }
    }
    assert!(longest < BUSY * LONGEST_WAIT_MS, "typing has to stay ahead: {longest} ms");
    Ok(())
}

/// The longest wait of any key while these words are typed, ms.
async fn longest_wait(browser: &Browser) -> anyhow::Result<f64> {
    browser.script("window.waits.length = 0").await?;
    browser.fill("input[type=search]", "g").await?;
    for letter in "enerated 1999 flow".chars() {
        browser.keys(&letter.to_string()).await?;
    }
    let narrowed = "const all = [...document.querySelectorAll('.lines .title')]; \
        return all.length > 0 && all.every(t => t.innerText.includes('1999'))";
    wait_for(browser, narrowed).await?;
    let lines = browser.script("return document.querySelectorAll('.lines li').length").await?;
    assert!(lines.as_u64().is_some_and(|shown| shown <= 30), "a page at most: {lines}");
    let waits: Vec<(String, f64)> =
        serde_json::from_value(browser.script("return window.waits").await?)?;
    Ok(waits.iter().map(|(_, wait)| *wait).fold(0.0, f64::max))
}

/// A file with two bad rows: seen first, each cell named, the good rows taken in on purpose.
async fn two_bad_rows_do_not_spoil_the_good_ones(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    let folder = tempfile::tempdir()?;
    let path = folder.path().join("limits.csv");
    std::fs::write(
        &path,
        "family;check;lower;upper;from_c;to_c;source\r\n\
         Kettra 27 solenoid;return_flow;;22,5;70;95;Kettra service sheet 27-5\r\n\
         Tarve 18 solenoid;return_flow;;much;;;heard of\r\n\
         Quillon S1;coil_resistance;0R30;0R42;;;card\r\n\
         Ostrel L6 solenoid;weight;3;;;;card\r\n",
    )?;
    browser.go(&format!("{}/library/file", program.address)).await?;
    let input = browser.see("input[type=file]").await?;
    input.send_keys(&path.display().to_string()).await?;
    browser.read("Rows that cannot be read").await?;
    browser.read("Row 3 upper Enter a number.").await?;
    browser.read("Row 5 check \"weight\" is not known.").await?;
    browser.read("instead of at most 24 ml/min, 70 to 95 °C").await?;
    browser.press("Import 2, skip 2 bad rows").await?;
    browser.read("1 new and 1 revised entries imported; 2 rows skipped.").await?;
    browser.fill("input[type=search]", "quill coil").await?;
    browser.read("coil resistance at 20 °C: 0.3 to 0.42 Ω").await?;
    browser.enter().await?;
    browser.read("Coil well below 1 Ω").await?;

    // The verdict of the net hauler rests on revision 2 and goes on resting on it.
    open_job(browser, program, "hauler").await?;
    browser.read("Kettra service sheet 27-4, revision 2").await?;
    browser.press("View by today").await?;
    browser.read("Limit 22.5 ml/min: Kettra service sheet 27-5, revision 3.").await?;
    browser.read("No injector’s result would change.").await?;
    browser.press("Save difference as note").await?;
    wait_for(browser, "return !document.querySelector('dialog')").await
}

/// Live as one types, refused beside the field, the answer never left standing for other input,
/// and the same again from its address.
async fn a_calculator_follows_the_typing_and_its_address_carries_it(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/calculators/flow_at_pressure", program.address)).await?;
    browser.fill("#flow", "250").await?;
    browser.fill("#test", "43,5 psi").await?;
    browser.fill("#reference", "4 bar").await?;
    browser.read("read as 2.999 bar (43,5 psi)").await?;
    browser.read("250 × √(400 ÷ 299.921942) = 288.7 ml/min").await?;
    browser.fill("#reference", "1,234").await?;
    browser.read("can mean 1.234 or 1234").await?;
    let answers =
        browser.script("return document.querySelectorAll('.answer .main').length").await?;
    assert_eq!(answers, 0, "no answer stands beside input that it is not for");
    browser.fill("#reference", "4").await?;
    browser.read("288.7").await?;
    wait_for(browser, "return location.search.includes('reference=4')").await?;
    browser.client.refresh().await?;
    browser.read("288.7").await?;
    let kept = browser.script("return document.querySelector('#test').value").await?;
    assert_eq!(kept, "43,5 psi");
    browser.keys("]").await.ok();
    Ok(())
}

/// A pocket meter on a coil below an ohm, and coarse jars before a return test.
async fn an_instrument_that_cannot_decide_says_what_would(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/instruments", program.address)).await?;
    browser.press("Pocket meter").await?;
    browser.read("overdue by").await?;
    browser.read("Pocket meter cannot decide 0.36 to 0.44 Ω").await?;
    browser.read("Milliohm bridge can, and you have it.").await?;
    browser.press("Milliohm bridge").await?;
    browser.read("Milliohm bridge can decide 0.36 to 0.44 Ω").await?;
    browser.press("Edit Milliohm bridge").await?;
    browser.fill("#resolution", &format!("fine{ENTER}")).await?;
    browser.read("Enter a number.").await?;
    browser.fill("#resolution", &format!("0,01{ENTER}")).await?;
    browser.read("shows 0.01 Ω").await?;

    open_job(browser, program, "malt").await?;
    browser.press("Change bottles").await?;
    browser.fill("#temperature", "82").await?;
    let pick = "const s = document.querySelector('#bottles'); \
        s.value = [...s.options].find(o => o.text.startsWith('Jam jars')).value; \
        s.dispatchEvent(new Event('change'))";
    browser.script(pick).await?;
    browser.fill("#planned", "0:40").await?;
    browser.read("Only in part").await?;
    browser.read("is enough").await?;
    assert_eq!(browser.script("return document.querySelector('#graduation').value").await?, "10");
    Ok(())
}

/// A changed rule wants its reason, and stands in the because of the next test.
async fn a_rule_of_the_house_stands_beside_the_next_result(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/rules", program.address)).await?;
    browser.press("Look closer above").await?;
    browser.fill("#return_look-typed", &format!("12 %{ENTER}")).await?;
    browser.read("Enter the workshop's reason").await?;
    browser.fill("#return_look-reason", &format!("two comebacks in spring{ENTER}")).await?;
    browser.read("instead of 15 %, revision 1: two comebacks in spring").await?;
    open_job(browser, program, "hop").await?;
    browser.press("Change bottles").await?;
    browser.fill("#temperature", &format!("80{ENTER}")).await?;
    browser.read("Start run 1").await?;
    browser.keys("t").await?;
    browser.read("How long did it run?").await?;
    browser.see("[data-entry]:focus").await?;
    browser.keys(&format!("2:00{ENTER}")).await?;
    for (cylinder, level) in [(1, "20"), (2, "21"), (3, "23")] {
        browser.see(&format!("[aria-label='Reading of cylinder {cylinder}']:focus")).await?;
        browser.keys(&format!("{level}{ENTER}")).await?;
    }
    browser.read("(workshop rule, revision 1)").await?;
    browser.read("revision 1, because: two comebacks in spring").await
}

/// Supply and balance by keyboard: Enter goes on, a refused cell keeps its text over a reload, the
/// drift asks for the first one again and is answered.
async fn cells_are_kept_as_they_are_left(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "hauler").await?;
    browser.press("Electrical").await?;
    browser.read("Supply voltage at the connectors").await?;
    // A common rail shows no voltage at rest; this one is said to be fed from the battery.
    browser
        .script("const e = document.querySelector('#set-feed'); e.value = '0'; e.dispatchEvent(new Event('change'))")
        .await?;
    browser.fill("#set-battery", &format!("12,6{ENTER}")).await?;
    browser.see("#set-load:focus").await?;
    browser.see("[aria-label='Voltage at connector of cylinder 1']").await?.click().await?;
    browser.keys(&format!("12.4{ENTER}0,1{ENTER}twelve{ENTER}12.5{ENTER}")).await?;
    browser.read("Cylinder 2: no supply voltage. Check its wiring or connector.").await?;
    browser.read("Cylinder 3: Enter a number.").await?;
    browser.read("a few strands carry a meter").await?;
    browser.client.refresh().await?;
    browser.read("Cylinder 2: no supply voltage").await?;
    let kept = browser
        .script("return document.querySelector('[aria-label=\"Voltage at connector of cylinder 3\"]').value")
        .await?;
    assert_eq!(kept, "twelve", "what was refused survives a reload");

    open_job(browser, program, "frost").await?;
    browser.read("Readings fall in test order: possible drift. Repeat the first one.").await?;
    browser.fill("#set-bracket_start", &format!("3{ENTER}")).await?;
    browser.fill("#set-bracket_end", &format!("2.23{ENTER}")).await?;
    browser.read("whole spread: drift. Let the rail settle and repeat the set.").await?;
    browser.press("Rule out").await?;
    browser.press("Compression").await?;
    browser.see("[aria-label='Compression of cylinder 1']").await?.click().await?;
    browser.keys(&format!("9,8{ENTER}970 kPa{ENTER}7,1{ENTER}985 kPa{ENTER}")).await?;
    browser.read("Cylinder 3: compression too low.").await?;
    browser.keys("p").await?;
    browser.press("Add technical pages").await?;
    browser.read("Checks across the cylinders").await?;
    browser.read("Any other finding on the same injector still counts").await
}

/// A family that nobody knows, a limit with a slip in it, and the way back to both by the command line.
async fn a_family_and_its_first_limit_by_hand(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/library/new", program.address)).await?;
    browser.fill("#name", "Quillon S9").await?;
    browser.fill("#drive_voltage_v", "24").await?;
    browser.fill("#peak_voltage_v", "16").await?;
    browser.fill("#torque", "8; ninety°").await?;
    browser.press("Add family").await?;
    browser.read("Enter a number.").await?;
    browser.fill("#torque", "44 in·lb; 90°").await?;
    browser.press("Add family").await?;
    browser.read("Drive voltage is above the peak voltage.").await?;
    browser.fill("#peak_voltage_v", "28 V").await?;
    browser.press("Add family").await?;
    browser.read("None known. That is normal").await?;
    browser.read("90° on").await?;
    browser.press("Add or revise limit").await?;
    browser.fill("#upper", "2,5,0").await?;
    browser.press("Approve limit").await?;
    browser.read("is not a number").await?;
    browser.read("Enter where the numbers come from.").await?;
    browser.fill("#upper", "25").await?;
    browser.fill("#from_c", "70").await?;
    browser.fill("#source", "own card 1").await?;
    browser.press("Approve limit").await?;
    browser.read("at most 25 ml/min, from 70 °C").await?;
    browser.read("own card 1, revision 1, approved by Tamsin").await?;
    browser.script("document.activeElement.blur()").await?;
    browser.keys("/").await?;
    browser.see("dialog input").await?;
    browser.keys("fuel left").await?;
    browser.read("calculator").await?;
    browser.enter().await?;
    browser.read("Fuel left on the piston").await
}

/// Nobody published a limit for this family: the house's own is offered, labelled, and judged by.
async fn the_house_s_own_reference_is_offered_and_followed(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "peat").await?;
    browser.press("Change bottles").await?;
    browser.fill("#temperature", "80").await?;
    browser.read("This workshop's own reference, not a maker's limit").await?;
    browser.read("12 proven-good injectors from").await?;
    browser.see(".own input").await?.click().await?;
    browser.read("Bottles can settle it").await?;
    browser.press("Save setup").await?;
    browser.read("Start run 1").await?;
    browser.keys("t").await?;
    browser.read("How long did it run?").await?;
    browser.see("[data-entry]:focus").await?;
    browser.keys(&format!("2:00{ENTER}")).await?;
    for (cylinder, level) in [(6, "28"), (5, "27"), (4, "44"), (3, "28"), (2, "29"), (1, "27")] {
        browser.see(&format!("[aria-label='Reading of cylinder {cylinder}']:focus")).await?;
        browser.keys(&format!("{level}{ENTER}")).await?;
    }
    browser.read("Cylinder 4, too high").await?;
    browser.read("not a maker's limit").await
}

/// Held upright, nothing hangs over the edge and everything is large enough for a glove.
async fn shelves_fit_a_tablet(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    browser.resize(768, 1024).await?;
    let small = "return [...document.querySelectorAll('main button, main a')] \
        .filter(e => e.offsetParent && !e.closest('p') && (e.offsetHeight < 40 || e.offsetWidth < 40)) \
        .map(e => `${e.className} ${e.innerText} ${e.offsetWidth}x${e.offsetHeight}`)";
    for path in ["/library", "/calculators/torque", "/instruments", "/rules"] {
        browser.go(&format!("{}{path}", program.address)).await?;
        browser.see("main h1, main h2").await?;
        let wide = "return document.documentElement.scrollWidth <= innerWidth";
        assert_eq!(browser.script(wide).await?, Value::Bool(true), "over the edge: {path}");
        assert_eq!(browser.script(small).await?, Value::Array(Vec::new()), "{path}");
    }
    browser.resize(1280, 800).await
}
