//! The workshop: its name, its meters, and the vocabularies that the screens offer.

pub mod wire;
pub mod words;

use axum::Json;
use axum::extract::State;
use owl_core::named::Named;
use owl_core::part::Fact;
use owl_core::reading::ReadQuantity;

use self::wire::{FamiliesOf, PositionsOf, RectifierView, SchoolView, Words, WorkshopView};
use self::words::DialectView;
use crate::app::App;
use crate::backup::schedule::BackupView;
use crate::error::ApiError;
use crate::judge::view::FactView;
use crate::tray::wire::ReadableView;

/// The workshop with everything that the screens need to offer.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/workshop", tag = "workshop", responses(
    (status = 200, body = WorkshopView)))]
pub async fn workshop(State(app): State<App>) -> Result<Json<WorkshopView>, ApiError> {
    let named = crate::table::workshop::named(&app.db).await?;
    Ok(Json(WorkshopView {
        name: named.name,
        place: named.place,
        dialect: DialectView::of(crate::table::workshop::dialect(&app.db).await?),
        backup: match app.backups_every {
            Some(every) => Some(BackupView::of(&crate::table::backup::standing(&app.db).await?, every)),
            None => None,
        },
        instruments: crate::instrument::views(&app).await?,
        schools: SchoolView::all(),
        words: Words {
            sources: all(),
            devices: all(),
            arrangements: all(),
            symptoms: owl_core::caution::symptoms().to_vec(),
            families: FamiliesOf::all(),
            positions: PositionsOf::all(),
            safety_classes: all(),
            facts: Fact::said().map(|f| FactView::of(f, None)).collect(),
            rectifiers: RectifierView::all(),
            instrument_kinds: all(),
            quantities: ReadQuantity::ALL
                .iter()
                .map(|q| ReadableView { called: q.called().to_owned(), quantities: vec![*q], state: None })
                .collect(),
            settings: all(),
            states: all(),
            modes: all(),
            verdicts: all(),
            colours: all(),
        },
    }))
}

fn all<T: Named>() -> Vec<T> {
    T::ALL.to_vec()
}
