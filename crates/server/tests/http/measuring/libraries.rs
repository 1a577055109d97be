//! The library over HTTP: out, in, and files that are hostile or broken.

use super::*;

#[tokio::test]
async fn a_file_with_bad_rows_names_each_cell_and_changes_nothing_until_it_is_told_to() {
    let shop = Workshop::open().await;
    let rows = "Kettra 27,diesel_solenoid,return_flow,,,24,70,95,sheet 4\n\
        Kettra 27,,coil_resistance,,0R36,0R44,,,sheet 4\n\
        Kettra 27,,return_flow,,,lots,,,sheet 4\n\
        Kettra 27,steam,weight,,3,,,,\n";
    let (status, preview) = shop.library("preview", rows, false).await;
    assert_eq!((status, &preview["adds"], &preview["bad_rows"]), (200, &json!(2), &json!(2)));
    let named: Vec<(u64, &str)> = preview["problems"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| (p["row"].as_u64().unwrap(), p["field"].as_str().unwrap()))
        .collect();
    assert_eq!(named, [(4, "upper"), (5, "source"), (5, "kind"), (5, "check")]);
    assert_eq!(shop.get("/library").await["total"], 0, "a look keeps nothing");

    let (status, refused) = shop.library("import", rows, false).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("row 4, upper")));
    assert_eq!(shop.get("/library").await["total"], 0, "all or nothing");
    let (status, done) = shop.library("import", rows, true).await;
    assert_eq!((status, &done["adds"]), (200, &json!(2)));
    let found = shop.get("/library?q=sheet+kett").await;
    assert_eq!(found["total"], 2);
    assert_eq!(found["lines"][0]["says"], "leak-off flow: at most 24 ml/min, 70 to 95 °C");

    let (_, again) = shop.library("preview", rows, true).await;
    assert_eq!(
        (&again["adds"], &again["same"]),
        (&json!(0), &json!(2)),
        "the same file twice is once"
    );
    let newer = "Kettra 27,,return_flow,,,22,70,95,sheet 5\n";
    let (_, change) = shop.library("preview", newer, false).await;
    assert_eq!(change["changes"][0]["change"], "revises");
    assert_eq!(change["changes"][0]["before"], "at most 24 ml/min, 70 to 95 °C");

    let whole = json!({ "format": "csv", "text": "colour,taste\nred,sweet\n" });
    let asks = shop.good("POST", "/library/preview", whole.clone()).await;
    assert_eq!(
        (&asks["headings"], &asks["columns"]),
        (&json!(["colour", "taste"]), &json!(["", ""]))
    );
    assert!(asks["refused"].as_str().unwrap().contains("family, check, source"));
    assert_eq!(shop.send("POST", "/library/import", whole.to_string()).await.0, 422);

    // Any headings, said once, with the words of the screen in the cells and the unit in the heading.
    let text = "Teil;Was;H\u{f6}chstens (l/h);Woher\nKettra 27;Leak-off flow;1,2;sheet 6\n";
    let said = ["family", "check", "upper", "source"];
    let file = json!({ "format": "csv", "text": text, "columns": said });
    let done = shop.good("POST", "/library/import", file).await;
    assert_eq!((&done["revises"], &done["bad_rows"]), (&json!(1), &json!(0)));
    let again = json!({ "format": "csv", "text": text });
    let known = shop.good("POST", "/library/preview", again).await;
    assert_eq!((&known["columns"], &known["same"]), (&json!(said), &json!(1)), "remembered");
    let says = &shop.get("/library?q=sheet+6").await["lines"][0]["says"];
    assert_eq!(says, "leak-off flow: at most 20 ml/min");
}

#[tokio::test]
async fn the_library_goes_out_and_comes_back_without_loss_as_json_and_as_csv() {
    let (here, there) = (Workshop::open().await, Workshop::open().await);
    here.library(
        "import",
        "Hask D3,exhaust_doser,doser_volume,\"a minute, warm\",0.2 l,365,,,note 3\n",
        false,
    )
    .await;
    let family = here.get("/library?kind=family").await["lines"][0]["id"].clone();
    let path = format!("/library/families/{}", family.as_str().unwrap());
    let known = here.get(&path).await["family"].clone();
    let typed = |revision: u64, torque: &str| {
        json!({ "id": known["id"], "revision": revision, "name": known["name"], "kind": "exhaust_doser",
                "drive_voltage_v": "12", "peak_voltage_v": "16,5 V", "peak_current_a": "", "code_length": "8",
                "code_alphabet": "0123456789ABCDEF", "code_check": "", "torque": torque,
                "service_life_h": "", "cleaning": true, "note": "" })
    };
    let wrong = here.send("PUT", "/library/families", typed(1, "8 bar").to_string()).await;
    assert_eq!((wrong.0, &wrong.1["fields"][0]["field"]), (422, &json!("torque")));
    let known = typed(1, "44 in·lb; 90°");
    let kept = here.good("PUT", "/library/families", known.clone()).await;
    assert_eq!(kept["revision"], 2);
    assert_eq!(kept["detail"]["peak_voltage_v"], 16.5);
    assert_eq!(kept["detail"]["torque"][1], json!({ "torque_nm": null, "angle_deg": 90.0 }));
    let (status, stale) = here.send("PUT", "/library/families", known.to_string()).await;
    assert_eq!((status, &stale["code"]), (409, &json!("conflict")), "someone else was faster");
    let engine = json!({ "id": Uuid::now_v7(), "name": "Test engine", "revision": 0, "detail": {
        "kind": "engine", "fuel_system": "diesel_solenoid", "note": "",
        "layout": { "cylinders": 6, "banks": 2, "first_at": "pulley", "numbering": "alternating" } } });
    here.good("PUT", "/library/items", engine).await;

    let file = here.get("/library/export.json").await;
    let text = json!({ "format": "json", "text": file.to_string() });
    there.good("POST", "/library/import", text.clone()).await;
    let mut back = there.get("/library/export.json").await;
    // Identity and approval belong to the workshop; revisions count its own changes.
    back["limits"][0]["id"] = file["limits"][0]["id"].clone();
    back["limits"][0]["approved"] = file["limits"][0]["approved"].clone();
    back["families"][0]["revision"] = file["families"][0]["revision"].clone();
    assert_eq!(back, file);
    let again = there.good("POST", "/library/preview", text).await;
    assert_eq!(
        (&again["same"], &again["adds"], &again["revises"]),
        (&json!(3), &json!(0), &json!(0))
    );

    let csv = here.text("/library/limits.csv").await;
    let (_, same) = here.library("preview", csv.split_once("\r\n").unwrap().1, false).await;
    assert_eq!(same["same"], 0, "the head of the export has more columns than ours");
    let exported = json!({ "format": "csv", "text": csv });
    let same = here.good("POST", "/library/preview", exported).await;
    assert_eq!((&same["same"], &same["bad_rows"]), (&json!(1), &json!(0)));
}

#[tokio::test]
async fn hostile_and_broken_library_files_change_nothing_and_say_where() {
    let shop = Workshop::open().await;
    shop.library("import", "Kettra 27,diesel_solenoid,return_flow,,,24,70,95,sheet 4\n", false)
        .await;
    let before = shop.get("/library/export.json").await;
    let whole = before.to_string();
    let json_of = |text: &str| json!({ "format": "json", "text": text }).to_string();
    let csv_of = |text: &str| json!({ "format": "csv", "text": text }).to_string();
    let mut newer = before.clone();
    newer["version"] = json!(9);
    let mut strange = before.clone();
    strange["families"][0]["detail"]["colour"] = json!("red");
    let many = format!("{HEAD}{}", "A,,return_flow,,,1,,,s\n".repeat(50_001));
    for (body, says) in [
        (json_of(&whole[..whole.len() / 2]), "Not a library file: EOF while parsing"),
        (json_of(&newer.to_string()), "cobaltine.library version 1 is needed"),
        (json_of(&strange.to_string()), "unknown field `colour`"),
        (json_of("[]"), "Not a library file"),
        (csv_of(&many), "Maximum 50000 rows"),
    ] {
        for what in ["preview", "import"] {
            let (status, refused) =
                shop.send("POST", &format!("/library/{what}"), body.clone()).await;
            assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("file")), "{says}");
            assert!(refused["fields"][0]["message"].as_str().unwrap().contains(says), "{refused}");
        }
    }
    // Spreadsheets of other countries: semicolons, a mark at the start, decimal commas, quotes.
    let spreadsheet = "\u{feff}Family;Check;Upper;Source\r\nKettra 27;coil_resistance;0,44;\"sheet; page \"\"4\"\"\"\r\n";
    let (_, read) = shop.send("POST", "/library/preview", csv_of(spreadsheet)).await;
    assert_eq!((&read["adds"], &read["bad_rows"]), (&json!(1), &json!(0)), "{read}");
    assert_eq!(read["changes"][0]["after"], "coil resistance at 20 °C: at most 0.44 Ω");
    let ragged = format!("{HEAD}Kettra 27,,lift,,1,2,,,s,one,too,many\nKettra 27,,lift,,1,2,,,s\n");
    let (_, read) = shop.send("POST", "/library/preview", csv_of(&ragged)).await;
    assert_eq!((&read["adds"], &read["problems"][0]["field"]), (&json!(1), &json!("row")));
    // Text that a spreadsheet would run goes out marked, and comes back as it was.
    shop.library("import", "=cmd,diesel_solenoid,lift,,1,2,,,@sheet\n", false).await;
    let csv = shop.text("/library/limits.csv").await;
    assert!(csv.contains("'=cmd") && csv.contains("'@sheet"), "{csv}");
    let same = shop.good("POST", "/library/preview", json!({ "format": "csv", "text": csv })).await;
    assert_eq!((&same["same"], &same["adds"]), (&json!(2), &json!(0)));
    let too_large = json!({ "format": "csv", "text": "x".repeat(9 * 1024 * 1024) });
    assert_eq!(shop.send("POST", "/library/preview", too_large.to_string()).await.0, 413);
}
