//! Puts the parts together and serves them.

use std::net::{Ipv4Addr, SocketAddr, TcpListener};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

use actix_web::dev::{Server, ServerHandle};
use actix_web::{App, HttpServer, middleware, web};
use anyhow::{Context, Result};
use keen_store::{Condition, Store, StoreError};
use signal_hook::consts::{SIGINT, SIGTERM};

use crate::assets::Screens;
use crate::phones::{self, Entrance, Order};
use crate::shelf_place::{MAX_BODY, folder, shelf_in};
use crate::{Serve, api, assets, calm, demo, gate, guard, once, sealing};

/// How often the shelf is tidied.
const TIDY: Duration = Duration::from_secs(600);

/// Files and connections that may be open at once: a phone that hangs must not keep others out.
fn allow_connections() -> usize {
    let files = rlimit::increase_nofile_limit(16_384).unwrap_or(1024);
    usize::try_from(files.saturating_sub(128) / 2).unwrap_or(400).max(64)
}

/// Why the port can't be had, and what to do.
fn no_port(error: &std::io::Error, port: u16) -> String {
    match error.kind() {
        std::io::ErrorKind::AddrInUse => {
            format!("Port {port} is taken by another program. Choose another one with --port.")
        }
        std::io::ErrorKind::PermissionDenied => format!(
            "You may not use port {port}: ports below 1024 are for administrators. \
             Choose a higher one with --port, for example 7340."
        ),
        _ => format!("Port {port} can't be used: {error}. Choose another one with --port."),
    }
}

/// Serves at some addresses; what that door is called is known when they are taken.
fn listen(
    (state, screens): (&web::Data<api::State>, Screens),
    entrance: impl Fn(&[SocketAddr]) -> Entrance,
    at: &[SocketAddr],
) -> std::io::Result<(Server, Vec<SocketAddr>)> {
    let taken: Vec<TcpListener> = at.iter().map(TcpListener::bind).collect::<Result<_, _>>()?;
    let addresses: Vec<SocketAddr> =
        taken.iter().map(TcpListener::local_addr).collect::<Result<_, _>>()?;
    let (state, entrance) = (state.clone(), entrance(&addresses));
    let mut server = HttpServer::new(move || {
        App::new()
            .app_data(state.clone())
            .app_data(entrance.clone())
            .app_data(web::Data::new(screens))
            .app_data(web::PayloadConfig::new(MAX_BODY))
            .app_data(web::QueryConfig::default().error_handler(api::bad_query))
            .app_data(web::PathConfig::default().error_handler(api::bad_path))
            .configure(api::every_call)
            .service(web::resource("/api/openapi.json").get(api::description))
            .service(web::resource("/api/docs/{file:.*}").get(assets::documentation))
            .service(web::scope("/api").default_service(web::to(api::unknown)))
            .default_service(web::to(assets::serve))
            .wrap(middleware::from_fn(once::check))
            .wrap(middleware::from_fn(calm::keep))
            .wrap(middleware::from_fn(gate::check))
            .wrap(middleware::from_fn(guard::check))
            .wrap(tracing_actix_web::TracingLogger::default())
    })
    .workers(2)
    .max_connections(allow_connections())
    // Who hangs up is not worked for any more.
    .h1_allow_half_closed(false)
    // Whoever stops the program is heard from its first moment on, not only once this runs.
    .disable_signals()
    .client_request_timeout(Duration::from_secs(5))
    .shutdown_timeout(2);
    for listener in taken {
        server = server.listen(listener)?;
    }
    Ok((server.run(), addresses))
}

fn say_door(state: &web::Data<api::State>) -> Result<()> {
    let Some((code, _)) = state.phones.code() else { return Ok(()) };
    for address in state.phones.addresses() {
        crate::console::print(&format!(
            "Connect a phone at http://{address} with the code {code}"
        ))?;
    }
    Ok(())
}

/// Opens and shuts the second door when it is told to.
async fn keep_door(
    (state, screens): (web::Data<api::State>, Screens),
    mut orders: phones::Orders,
    (said, names): (Option<SocketAddr>, Vec<String>),
) {
    let mut open: Option<ServerHandle> = None;
    while let Some(order) = orders.recv().await {
        match order {
            Order::Open(answer) => {
                let kitchen = |at: &[SocketAddr]| Entrance::kitchen(at, &names);
                let opened = phones::places(said).and_then(|places| {
                    listen((&state, screens), kitchen, &places)
                        .map_err(|error| no_port(&error, places[0].port()))
                });
                let _ = answer.send(opened.map(|(server, addresses)| {
                    open = Some(server.handle());
                    actix_web::rt::spawn(server);
                    addresses
                }));
            }
            Order::Shut(answer) => {
                if let Some(door) = open.take() {
                    door.stop(false).await;
                }
                let _ = answer.send(());
            }
        }
    }
}

/// How often it is looked whether the program is to end.
const HEARD: Duration = Duration::from_millis(50);

/// Hears from now on when the program is to end: at a moment of its own choosing, with everything on the disk.
fn hear_the_end() -> Result<Arc<AtomicBool>> {
    let ends = Arc::new(AtomicBool::new(false));
    for signal in [SIGTERM, SIGINT] {
        signal_hook::flag::register(signal, Arc::clone(&ends)).context("signals can't be heard")?;
    }
    Ok(ends)
}

/// Stops the server when the program is to end.
async fn stop_at_the_end(ends: Arc<AtomicBool>, server: ServerHandle) {
    while !ends.load(Ordering::Relaxed) {
        actix_web::rt::time::sleep(HEARD).await;
    }
    server.stop(true).await;
}

/// Serves until it is told to stop.
pub(crate) fn run(serve: &Serve, with_demo: bool, screens: Screens) -> Result<()> {
    let ends = hear_the_end()?;
    let folder = folder(serve.data.clone(), with_demo)?;
    let store = Arc::new(Store::open_to_serve(&shelf_in(&folder))?);
    tell_condition(&store);
    if store.condition() == Condition::Sound {
        sealing::open(&store)?;
        if with_demo {
            demo::fill(&store)?;
        }
    }
    let (phones, orders) = phones::Phones::new();
    let cupboard = api::prepared(&store)?;
    let state = web::Data::new(api::State::new(
        Arc::clone(&store),
        cupboard,
        &serve.instruments,
        phones,
        serve.luck,
    )?);
    let served = actix_web::rt::System::new().block_on(async {
        actix_web::rt::spawn(keep_tidy(Arc::clone(&store), state.clone()));
        let here = SocketAddr::from((Ipv4Addr::LOCALHOST, serve.port));
        let (server, addresses) = listen((&state, screens), |_| Entrance::Here, &[here])
            .map_err(|error| anyhow::anyhow!(no_port(&error, serve.port)))?;
        actix_web::rt::spawn(stop_at_the_end(ends, server.handle()));
        let address = addresses[0];
        crate::console::print(&format!(
            "Keen Pitcher is at http://{address}
Your data is in {}",
            folder.display()
        ))?;
        if serve.open {
            crate::console::open_browser(&format!("http://{address}"));
        }
        let said = serve.kitchen.flatten();
        actix_web::rt::spawn(keep_door(
            (state.clone(), screens),
            orders,
            (said, serve.kitchen_name.clone()),
        ));
        if serve.kitchen.is_some() {
            match state.phones.open().await {
                Ok(()) => drop(say_door(&state)),
                Err(why) => eprintln!("Phones can't connect: {why}"),
            }
        }
        server.await.context("the server stopped")
    });
    if store.condition() == Condition::Sound {
        // From here on the one file holds everything.
        store.fold()?;
    }
    served
}

/// Tells on the command line what is not as it should be.
fn tell_condition(store: &Store) {
    let folder = store.folder();
    match store.condition() {
        Condition::Sound => {}
        Condition::ReadOnly => eprintln!("{}", StoreError::ReadOnly(folder)),
        Condition::Damaged(what) => {
            eprintln!("{} {}", StoreError::Damaged(what), crate::house::way_back(&folder));
        }
    }
}

/// Tidies the shelf now and every some minutes.
async fn keep_tidy(store: Arc<Store>, state: web::Data<api::State>) {
    while store.condition() == Condition::Sound {
        let mine = Arc::clone(&store);
        let now = jiff::Timestamp::now().to_string();
        if let Ok(Err(error)) = web::block(move || mine.tidy(&now)).await {
            tracing::warn!(%error, "the shelf was not tidied");
        }
        // What is kept grows older while nobody touches it, and so does what is made of it.
        if state.bottles_grew_older().await.is_err() {
            tracing::warn!("the age of the kept bottles was not noted");
        }
        // Looked for each time, made once a day.
        let mine = Arc::clone(&store);
        if let Ok(Err(error)) = web::block(move || crate::house::daily(&mine, false)).await {
            tracing::warn!(%error, "today's backup was not made");
        }
        actix_web::rt::time::sleep(TIDY).await;
    }
}
