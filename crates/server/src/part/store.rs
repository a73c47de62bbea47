//! All SQL of parts.

use std::collections::HashMap;

use owl_core::marking::{Colour, Meaning};
use owl_core::named::Named;
use owl_core::part::{Fact, Family, PartKind};
use owl_core::quantity::write::{percent, write};
use owl_core::quantity::{Fraction, Ohm, Quantity, Watt};
use owl_core::transistor::Device;
use owl_core::transistor::device::{device, meant};
use serde_json::Value;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use crate::cause::store::CauseRow;
use crate::decision::store::DecisionRow;
use crate::decode::wire::MeaningView;
use crate::error::{ApiError, Changed};
use crate::explanation::store::ExplanationRow;
use crate::fitting::store::FittingRow;
use crate::name::stored;
use crate::reading::store::ReadingRow;
use crate::transistor::junction::JunctionRow;

/// A part as stored.
#[derive(Debug, Clone)]
pub struct PartRow {
    /// Its id.
    pub id: Uuid,
    /// Its ticket.
    pub ticket_id: Uuid,
    /// Its name on the sheet.
    pub name: String,
    /// What it is.
    pub kind: String,
    /// How it is made, where that is known; always of a resistor.
    pub family: Option<String>,
    /// Where it sits.
    pub position: Option<String>,
    /// Where it is found.
    pub place: String,
    /// What was seen on it.
    pub note: String,
    /// What it shares with the others that it must agree with.
    pub group_id: Option<Uuid>,
    /// The resistor that it is fed through.
    pub feed_id: Option<Uuid>,
    /// What is seen on it.
    pub looks: Vec<String>,
    /// What is known of the circuit round it, by the fact's name, in base units.
    pub facts: Value,
    /// Whether it is to be tested warm.
    pub test_warm: bool,
    /// The year in which it was made.
    pub made: Option<i32>,
    /// Plates of a selenium stack.
    pub plates: Option<i32>,
    /// A winding's resistance by the sheet, in ohm.
    pub winding: Option<f64>,
    /// What the sheet says, in the base unit of its kind.
    pub sheet: Option<f64>,
    /// What is marked, in the base unit of its kind.
    pub marked: Option<f64>,
    /// The marked tolerance, a fraction.
    pub tolerance: Option<f64>,
    /// Rated watts.
    pub watts: Option<f64>,
    /// What was typed for the marking.
    pub marking: String,
    /// Its bands.
    pub colours: Vec<String>,
    /// The reading of its marking that was accepted, as it was.
    pub mark: Option<Value>,
    /// The part with which it may have died.
    pub suspect_of: Option<Uuid>,
    /// Rises with everything that happens to it.
    pub version: i32,
}

impl PartRow {
    /// A part of which nothing is known but its name.
    #[must_use]
    pub fn new(id: Uuid, ticket_id: Uuid, name: &str) -> Self {
        let kind = PartKind::called(name).unwrap_or(PartKind::Resistor);
        Self {
            id,
            ticket_id,
            name: name.to_owned(),
            kind: kind.name().to_owned(),
            family: (kind == PartKind::Resistor).then(|| Family::CarbonComposition.name().to_owned()),
            position: None,
            place: String::new(),
            note: String::new(),
            group_id: None,
            feed_id: None,
            looks: vec![],
            facts: Value::Object(serde_json::Map::new()),
            test_warm: false,
            made: None,
            plates: None,
            winding: None,
            sheet: None,
            marked: None,
            tolerance: None,
            watts: None,
            marking: String::new(),
            colours: vec![],
            mark: None,
            suspect_of: None,
            version: 1,
        }
    }

    /// The type number that was read on it.
    #[must_use]
    pub fn type_number(&self) -> Option<&str> {
        self.mark.as_ref()?.get("type_number")?.as_str()
    }

    /// What it is.
    pub fn kind(&self) -> Result<PartKind, ApiError> {
        stored(&self.kind)
    }

    /// Sets the mark as it was said; bands and a reading that no longer belong to it go.
    pub fn set_mark(&mut self, value: Ohm, tolerance: Option<Fraction>, colours: &[Colour]) {
        self.marked = Some(value.ohms());
        // Four bands with no tolerance say 20 % by saying nothing, which is what null means here.
        self.tolerance = tolerance.map(Fraction::fraction);
        self.colours = colours.iter().map(|c| c.name().to_owned()).collect();
        self.mark = None;
    }

    /// Puts a reading of the marking on the part.
    ///
    /// # Errors
    /// 422 for a reading of another kind of part, or of a link, which has no value to judge.
    pub fn accept(&mut self, m: &Meaning, typed: &str) -> Result<(), ApiError> {
        let kind = self.kind()?;
        if m.part != kind {
            let why = format!("that is the marking of a {}; {} is a {kind}", m.part, self.name);
            return Err(ApiError::field("marking", why));
        }
        let number = m.value.number().map(|(_, v)| v);
        if number == Some(0.0) {
            return Err(ApiError::field("marking", "zero ohm is a link, not a resistor with a value"));
        }
        self.marked = number;
        self.tolerance = m.tolerance_fraction().map(Fraction::fraction).filter(|t| *t > 0.0 && *t < 1.0);
        self.colours = m.colours.iter().map(|c| c.name().to_owned()).collect();
        self.watts = m.power.map(Watt::watts).or(self.watts);
        if let Some(made) = m.made.filter(|made| made.kind() == kind) {
            self.family = Some(made.name().to_owned());
        }
        self.marking = typed.replace('\0', "").trim().chars().take(200).collect();
        let view = serde_json::to_value(MeaningView::of(m));
        self.mark = Some(view.map_err(|e| ApiError::Internal(e.to_string()))?);
        Ok(())
    }

    /// Takes the mark away.
    pub fn unmark(&mut self) {
        self.marked = None;
        self.tolerance = None;
        self.marking = String::new();
        self.colours = vec![];
        self.mark = None;
    }
}

/// A ticket's parts with all that happened to them, each list oldest first.
#[derive(Debug, Clone, Default)]
pub struct TrayRows {
    /// The parts.
    pub parts: Vec<PartRow>,
    /// Their readings.
    pub readings: Vec<ReadingRow>,
    /// Where the readings of each part stand in that list.
    reading_places: HashMap<Uuid, Vec<usize>>,
    /// Their decisions.
    pub decisions: Vec<DecisionRow>,
    /// Their fittings, without those that were undone.
    pub fittings: Vec<FittingRow>,
    /// The fittings that were undone.
    pub withdrawn: Vec<FittingRow>,
    /// How their disagreements were explained.
    pub explanations: Vec<ExplanationRow>,
    /// Why those that were overloaded failed.
    pub causes: Vec<CauseRow>,
    /// The tests of their junctions.
    pub junctions: Vec<JunctionRow>,
    /// The workshop's own rows of the types on the tray.
    pub own_types: Vec<Device>,
}

impl TrayRows {
    /// The transistor that a print means: the workshop's own row before the table's.
    #[must_use]
    pub fn device(&self, type_number: &str) -> Option<&Device> {
        meant(type_number, |t| self.own_types.iter().find(|d| d.is_called(t)).or_else(|| device(t)))
    }

    /// Whether it was last decided that a part goes.
    #[must_use]
    pub fn decided_to_go(&self, part_id: Uuid) -> bool {
        self.decisions.iter().rfind(|d| d.part_id == part_id).is_some_and(|d| d.decided == "replace")
    }

    /// The readings of a part, oldest first.
    pub fn readings_of(&self, part_id: Uuid) -> impl DoubleEndedIterator<Item = &ReadingRow> {
        self.reading_places.get(&part_id).into_iter().flatten().filter_map(|i| self.readings.get(*i))
    }
}

/// Everything on a tray, in the transaction that is open.
pub async fn tray(db: &mut PgConnection, ticket_id: Uuid) -> Result<TrayRows, ApiError> {
    let parts = parts_of(&mut *db, ticket_id).await?;
    let readings = crate::reading::store::of_ticket(&mut *db, ticket_id).await?;
    let decisions = crate::decision::store::of_ticket(&mut *db, ticket_id).await?;
    let fittings = crate::fitting::store::of_ticket(&mut *db, ticket_id).await?;
    let (withdrawn, fittings): (Vec<FittingRow>, Vec<FittingRow>) =
        fittings.into_iter().partition(|f| f.withdrawn_at.is_some());
    let explanations = crate::explanation::store::of_ticket(&mut *db, ticket_id).await?;
    let causes = crate::cause::store::of_ticket(&mut *db, ticket_id).await?;
    let transistors = parts.iter().any(|p| p.kind == PartKind::Transistor.name());
    let (junctions, own_types) = if transistors {
        let printed = parts.iter().filter_map(PartRow::type_number);
        let fitted = fittings_in(&fittings, &withdrawn);
        let types: Vec<String> = printed.chain(fitted).map(str::to_owned).collect();
        (
            crate::transistor::junction::of_ticket(&mut *db, ticket_id).await?,
            crate::transistor::library::called(&mut *db, &types).await?,
        )
    } else {
        (vec![], vec![])
    };
    let mut reading_places: HashMap<Uuid, Vec<usize>> = HashMap::new();
    for (i, r) in readings.iter().enumerate() {
        reading_places.entry(r.part_id).or_default().push(i);
    }
    Ok(TrayRows {
        parts,
        readings,
        reading_places,
        decisions,
        fittings,
        withdrawn,
        explanations,
        causes,
        junctions,
        own_types,
    })
}

fn fittings_in<'a>(a: &'a [FittingRow], b: &'a [FittingRow]) -> impl Iterator<Item = &'a str> {
    a.iter().chain(b).map(|f| f.type_number.as_str()).filter(|t| !t.is_empty())
}

/// The parts of a ticket, resistors first, in the order of their names, R2 before R10.
pub async fn parts_of(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<PartRow>, ApiError> {
    Ok(sqlx::query_as!(
        PartRow,
        "select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, version
         from part where ticket_id = $1
         order by array_position(array['resistor', 'capacitor', 'coil', 'diode', 'transistor', 'integrated circuit', 'lamp'], kind),
                  regexp_replace(name, '[0-9].*', ''), (substring(name from '[0-9]+'))::integer, name",
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// One part.
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<PartRow, ApiError> {
    sqlx::query_as!(
        PartRow,
        "select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, version
         from part where id = $1",
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| ApiError::no_such("part"))
}

/// One part, kept from changing until the transaction ends.
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<PartRow, ApiError> {
    sqlx::query!("select id from part where id = $1 for update", id).fetch_optional(&mut *db).await?;
    find(db, id).await
}

/// The part of that name on a ticket's tray.
pub async fn by_name(
    db: &mut PgConnection,
    ticket_id: Uuid,
    name: &str,
) -> Result<Option<PartRow>, ApiError> {
    Ok(parts_of(db, ticket_id).await?.into_iter().find(|p| p.name == name))
}

/// Adds a part; the same part sent twice is added once.
pub async fn insert(db: &mut PgConnection, row: &PartRow) -> Result<(), ApiError> {
    let inserted = sqlx::query!(
        "insert into part (id, ticket_id, name, kind, family, position, place, note, feed_id, looks, facts, test_warm,
                           made, plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $20, $21, $22,
                 $23)
         on conflict (id) do nothing",
        row.id,
        row.ticket_id,
        row.name,
        row.kind,
        row.family,
        row.position,
        row.place,
        row.note,
        row.feed_id,
        &row.looks,
        row.facts,
        row.test_warm,
        row.made,
        row.plates,
        row.winding,
        row.sheet,
        row.marked,
        row.tolerance,
        row.watts,
        row.marking,
        &row.colours,
        row.mark,
        row.suspect_of
    )
    .execute(db)
    .await;
    match inserted {
        Err(sqlx::Error::Database(e)) if e.is_unique_violation() => Err(ApiError::Conflict {
            detail: format!("there is a {} on this tray already", row.name),
            changed: vec![],
        }),
        other => other.map(|_| ()).map_err(ApiError::from),
    }
}

/// Writes a part back, except its group.
pub async fn update(db: &mut PgConnection, row: &PartRow) -> Result<(), ApiError> {
    sqlx::query!(
        "update part set family = $2, position = $3, place = $4, note = $5, sheet = $6, marked = $7,
                         tolerance = $8, watts = $9, marking = $10, colours = $11, mark = $12, feed_id = $13,
                         looks = $14, facts = $15, test_warm = $16, made = $17, plates = $18, winding = $19
         where id = $1",
        row.id,
        row.family,
        row.position,
        row.place,
        row.note,
        row.sheet,
        row.marked,
        row.tolerance,
        row.watts,
        row.marking,
        &row.colours,
        row.mark,
        row.feed_id,
        &row.looks,
        row.facts,
        row.test_warm,
        row.made,
        row.plates,
        row.winding
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Raises a part's version because something was added to its history.
pub async fn touch(db: &mut PgConnection, id: Uuid) -> Result<(), ApiError> {
    sqlx::query!("update part set updated_at = now() where id = $1", id).execute(db).await?;
    Ok(())
}

/// Takes a part out of its group; a group of one is none.
pub async fn leave_group(db: &mut PgConnection, id: Uuid) -> Result<(), ApiError> {
    sqlx::query!(
        "with mine as (select group_id from part where id = $1)
         update part p set group_id = null from mine
         where p.group_id = mine.group_id
           and (p.id = $1 or (select count(*) from part o where o.group_id = mine.group_id) <= 2)",
        id
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Puts a part into a group.
pub async fn join_group(db: &mut PgConnection, id: Uuid, group_id: Uuid) -> Result<(), ApiError> {
    sqlx::query!("update part set group_id = $2 where id = $1", id, group_id).execute(db).await?;
    Ok(())
}

/// A row as it was at a version.
pub struct RowBefore {
    /// Its columns.
    pub content: Value,
    /// When it was changed.
    pub changed_at: OffsetDateTime,
}

/// The row as it was at a version; `None` if it never had that version.
pub async fn row_before(
    db: &mut PgConnection,
    kind: &str,
    id: Uuid,
    version: i32,
) -> Result<Option<RowBefore>, ApiError> {
    Ok(sqlx::query_as!(
        RowBefore,
        "select content, changed_at from row_before where kind = $1 and id = $2 and version = $3",
        kind,
        id,
        version
    )
    .fetch_optional(db)
    .await?)
}

/// What happened to a part since a version.
pub async fn changed_since(db: &mut PgConnection, id: Uuid, version: i32) -> Result<Vec<Changed>, ApiError> {
    let now = sqlx::query_scalar!("select to_jsonb(p) as \"row!\" from part p where id = $1", id)
        .fetch_one(&mut *db)
        .await?;
    let Some(before) = row_before(db, "part", id, version).await? else { return Ok(vec![]) };
    let mut changed = differences(&before.content, &now);
    let events = sqlx::query!(
        r#"select (select count(*) from reading where part_id = $1 and taken_at >= $2) as "readings!",
                  (select count(*) from decision where part_id = $1 and decided_at >= $2) as "decisions!",
                  (select count(*) from fitting where part_id = $1 and fitted_at >= $2) as "fittings!""#,
        id,
        before.changed_at
    )
    .fetch_one(db)
    .await?;
    for (field, count) in
        [("readings", events.readings), ("decisions", events.decisions), ("fittings", events.fittings)]
    {
        if count > 0 {
            changed.push(Changed {
                field: field.to_owned(),
                before: String::new(),
                now: format!("{count} more"),
            });
        }
    }
    Ok(changed)
}

/// The columns in which two rows differ, in the trade's words.
#[must_use]
pub fn differences(before: &Value, now: &Value) -> Vec<Changed> {
    let (Some(before), Some(now)) = (before.as_object(), now.as_object()) else { return vec![] };
    let kind = now.get("kind").and_then(Value::as_str).and_then(|k| PartKind::from_name(k).ok());
    now.iter()
        .filter(|(key, value)| before.get(*key) != Some(value))
        .filter_map(|(key, value)| {
            let field = match key.as_str() {
                "version" | "updated_at" | "marking" | "group_id" | "feed_id" | "mark" | "suspect_of" => {
                    return None;
                }
                "marked" => "mark",
                "looks" => "seen on it",
                "facts" => "circuit",
                "test_warm" => "to be tested warm",
                other => other,
            };
            Some(Changed {
                field: field.to_owned(),
                before: shown(kind, key, before.get(key).unwrap_or(&Value::Null)),
                now: shown(kind, key, value),
            })
        })
        .collect()
}

fn shown(kind: Option<PartKind>, key: &str, value: &Value) -> String {
    match (key, value) {
        (_, Value::Null) => "nothing".to_owned(),
        ("sheet" | "marked", Value::Number(n)) => {
            let quantity = kind.and_then(PartKind::quantity).unwrap_or(Quantity::Resistance);
            write(quantity, n.as_f64().unwrap_or(0.0)).to_string()
        }
        ("winding", Value::Number(n)) => write(Quantity::Resistance, n.as_f64().unwrap_or(0.0)).to_string(),
        ("watts", Value::Number(n)) => write(Quantity::Power, n.as_f64().unwrap_or(0.0)).to_string(),
        ("tolerance", Value::Number(n)) => percent(n.as_f64().unwrap_or(0.0)),
        (_, Value::Array(list)) => list.iter().filter_map(Value::as_str).collect::<Vec<_>>().join(" "),
        (_, Value::Object(facts)) => facts
            .iter()
            .filter_map(|(name, v)| {
                let fact = Fact::from_name(name).ok()?;
                Some(format!("{} {}", fact.label()?.label, write(fact.quantity(), v.as_f64()?)))
            })
            .collect::<Vec<_>>()
            .join(", "),
        (_, Value::String(s)) => s.clone(),
        (_, other) => other.to_string(),
    }
}
