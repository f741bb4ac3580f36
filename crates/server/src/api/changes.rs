//! What changes on the shelf, told to every screen at once as server-sent events, so that a second
//! window learns of it before it is in its way.

use std::time::Duration;

use actix_web::http::header;
use actix_web::web::ReqData;
use actix_web::{HttpResponse, get, web};
use futures_util::stream;
use serde::Serialize;
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::broadcast::{Receiver, Sender, channel};
use utoipa::ToSchema;

use super::State;
use crate::instruments::InstrumentView;
use crate::phones::FromPhone;

/// Changes that a screen may be behind; one that is further behind is told to look at everything.
const BEHIND: usize = 64;
/// A silent line is kept open by a word now and then.
const STILL_HERE: Duration = Duration::from_secs(20);

/// A change on the shelf.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct Change {
    /// The kind of document that changed.
    of: Changed,
    /// The id of the drink, plan or batch, if it is one.
    #[serde(skip_serializing_if = "Option::is_none")]
    id: Option<String>,
    /// The version that it now has.
    #[serde(skip_serializing_if = "Option::is_none")]
    version: Option<i64>,
    /// The name of the screen that changed it.
    #[serde(skip_serializing_if = "Option::is_none")]
    by: Option<String>,
}

/// The kind of document that changed.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum Changed {
    /// A drink was put on the shelf, changed, removed or put back.
    Drink,
    /// A plan was kept, changed, removed or put back.
    Plan,
    /// Something was said of a batch.
    Batch,
    /// Something was said at a tasting, or somebody was put down, changed or deleted.
    Tasting,
    /// Bottles were put there, or something happened to one.
    Kept,
    /// This kitchen's own data.
    Kitchen,
    /// The remembered choices.
    Settings,
    /// A phone was let in or put out.
    Phones,
    /// Too much to name: look at all of it.
    Everything,
}

impl Change {
    fn everything() -> Self {
        Self { of: Changed::Everything, id: None, version: None, by: None }
    }
}

/// What is told on the line.
#[derive(Debug, Clone)]
enum News {
    Change(Change),
    Instrument(InstrumentView),
    /// A phone was put out, by its id, or all of them.
    Out(Option<String>),
}

/// Tells changes, and what instruments read, to whoever listens.
#[derive(Debug, Clone)]
pub(crate) struct Changes(Sender<News>);

impl Default for Changes {
    fn default() -> Self {
        Self(channel(BEHIND).0)
    }
}

impl Changes {
    pub(super) fn tell_kept(
        &self,
        of: Changed,
        id: &str,
        version: Option<i64>,
        by: Option<String>,
    ) {
        self.tell(Change { of, id: Some(id.to_owned()), version, by });
    }

    /// Another shelf stands in the place of this one.
    pub(super) fn tell_everything(&self) {
        self.tell(Change::everything());
    }

    pub(super) fn tell_document(&self, of: Changed, by: Option<String>) {
        self.tell(Change { of, id: None, version: None, by });
    }

    /// What an instrument reads.
    pub(crate) fn tell_instrument(&self, view: InstrumentView) {
        let _ = self.0.send(News::Instrument(view));
    }

    /// A phone is put out, or all of them: their lines end.
    pub(super) fn tell_out(&self, phone: Option<&str>) {
        let _ = self.0.send(News::Out(phone.map(str::to_owned)));
        self.tell_document(Changed::Phones, None);
    }

    fn tell(&self, change: Change) {
        // With nobody listening there is nobody to tell.
        let _ = self.0.send(News::Change(change));
    }
}

/// Somebody who listens.
struct Line {
    news: Receiver<News>,
    /// The phone that it is, if it is one.
    phone: Option<String>,
}

/// The next words on the line; none when it ends.
async fn next(mut line: Line) -> Option<(web::Bytes, Line)> {
    let text = loop {
        let news = match actix_web::rt::time::timeout(STILL_HERE, line.news.recv()).await {
            Err(_) => break ": still here\n\n".to_owned(),
            Ok(Ok(news)) => news,
            Ok(Err(RecvError::Lagged(_))) => News::Change(Change::everything()),
            Ok(Err(RecvError::Closed)) => return None,
        };
        match news {
            News::Change(change) => {
                break format!("data: {}\n\n", serde_json::to_string(&change).unwrap_or_default());
            }
            News::Instrument(view) => {
                let text = serde_json::to_string(&view).unwrap_or_default();
                break format!("event: instrument\ndata: {text}\n\n");
            }
            News::Out(who) => {
                let mine = line.phone.is_some() && (who.is_none() || who == line.phone);
                if mine {
                    return None;
                }
            }
        }
    };
    Some((web::Bytes::from(text), line))
}

/// Changes as they happen (server-sent events; each holds a `Change`, those called `instrument` an `InstrumentView`).
#[utoipa::path(operation_id = "watch_changes", tag = "shelf", responses(
    (status = 200, body = Change, content_type = "text/event-stream")))]
#[get("/api/changes")]
pub(super) async fn changes(
    state: web::Data<State>,
    phone: Option<ReqData<FromPhone>>,
) -> HttpResponse {
    let phone = phone.map(|phone| phone.into_inner().0);
    let line = Line { news: state.changes.0.subscribe(), phone };
    let hello = stream::once(async { web::Bytes::from_static(b"retry: 2000\n\n") });
    let words = stream::unfold(line, next);
    let lines = futures_util::StreamExt::map(
        futures_util::StreamExt::chain(hello, words),
        Ok::<_, std::convert::Infallible>,
    );
    HttpResponse::Ok()
        .content_type("text/event-stream")
        .insert_header((header::CACHE_CONTROL, "no-store"))
        // Packing would hold words back until there are enough of them.
        .insert_header((header::CONTENT_ENCODING, "identity"))
        .streaming(lines)
}
