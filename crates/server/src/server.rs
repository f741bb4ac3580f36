//! Puts the parts together and serves them.

use std::net::Ipv4Addr;
use std::path::PathBuf;
use std::sync::Arc;

use actix_web::{App, HttpServer, middleware, web};
use anyhow::{Context, Result};
use keen_store::Store;
use utoipa_actix_web::AppExt;

use crate::{Serve, api, assets, demo, guard};

/// The largest body that is read: a drink of 200 steps with long notes is a fifth of it.
const MAX_BODY: usize = 512 * 1024;

/// The folder that the shelf is kept in.
pub(crate) fn folder(data: Option<PathBuf>, demo: bool) -> Result<PathBuf> {
    if let Some(folder) = data {
        return Ok(folder);
    }
    let dirs = directories::ProjectDirs::from("", "", "keen-pitcher")
        .context("there is no home folder to keep things in; say one with --data")?;
    Ok(if demo { dirs.data_dir().join("demo") } else { dirs.data_dir().to_owned() })
}

/// Opens the shelf in that folder.
pub(crate) fn open(folder: &std::path::Path) -> Result<Store> {
    let path = folder.join("keen-pitcher.db");
    Store::open(&path).with_context(|| format!("the shelf at {} can't be opened", path.display()))
}

/// Serves until it is told to stop.
pub(crate) fn run(serve: &Serve, with_demo: bool) -> Result<()> {
    let folder = folder(serve.data.clone(), with_demo)?;
    let store = Arc::new(open(&folder)?);
    if with_demo {
        demo::fill(&store)?;
    }
    let state = web::Data::new(api::State::new(store)?);
    actix_web::rt::System::new().block_on(async move {
        let server = HttpServer::new(move || {
            let (app, document) = App::new()
                .into_utoipa_app()
                .openapi(api::document_head())
                .app_data(state.clone())
                .app_data(web::PayloadConfig::new(MAX_BODY))
                .configure(api::routes)
                .split_for_parts();
            app.service(api::document_service(document))
                .service(web::scope("/api").default_service(web::to(api::unknown)))
                .default_service(web::to(assets::serve))
                .wrap(middleware::Compress::default())
                .wrap(middleware::from_fn(guard::check))
                .wrap(tracing_actix_web::TracingLogger::default())
        })
        .workers(2)
        .shutdown_timeout(2)
        .bind((Ipv4Addr::LOCALHOST, serve.port))
        .with_context(|| format!("port {} is taken; say another with --port", serve.port))?;
        let address = server.addrs()[0];
        crate::command::print(&format!(
            "Keen Pitcher is at http://{address}
What you make is kept in {}",
            folder.display()
        ))?;
        server.run().await.context("the server stopped")
    })
}
