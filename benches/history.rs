//! `cargo bench --bench history`: what undo would do, asked while fine pictures are drawn for six windows.

use criterion::{Criterion, criterion_group, criterion_main};
use serde_json::Value;
use tokio::runtime::Runtime;
use warm_blend_server::{Workspace, serve};

/// How many windows have pictures drawn.
const WINDOWS: u32 = 6;

fn history(criterion: &mut Criterion) {
    let folder = tempfile::tempdir().expect("a folder");
    let runtime = Runtime::new().expect("threads");
    let workspace = Workspace::demo(&folder.path().join("demo.db")).expect("a demo");
    let served = runtime.block_on(serve(workspace, 0)).expect("a port");
    let (base, client) = (served.url(), reqwest::Client::new());
    let ask = async || -> Value {
        let asked = client.get(format!("{base}/api/history")).send().await;
        asked.expect("an answer").json().await.expect("JSON")
    };
    criterion.bench_function("history", |bench| bench.iter(|| runtime.block_on(ask())));

    let piece: Value = runtime.block_on(async {
        let asked = client.get(format!("{base}/api/piece")).send().await;
        asked.expect("an answer").json().await.expect("JSON")
    });
    for window in 0..WINDOWS {
        let (client, entry) = (client.clone(), piece["entry"].clone());
        let at = format!("{base}/api/piece/picture?width={}&height=1100&fine=true", 1500 + window);
        runtime.spawn(async move { while client.post(&at).json(&entry).send().await.is_ok() {} });
    }
    criterion.bench_function("history_beside_pictures", |bench| bench.iter(|| runtime.block_on(ask())));
    runtime.shutdown_background();
}

criterion_group!(benches, history);
criterion_main!(benches);
