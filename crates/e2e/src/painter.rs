//! A painter at the browser: finds things by role and name, waits for states, reads numbers back.

use std::net::TcpListener;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicU32, Ordering};
use std::time::{Duration, Instant};

use base64::Engine;
use serde_json::{Value, json};
use tempfile::TempDir;
use thirtyfour::cdp::Cdp;
use thirtyfour::error::WebDriverErrorInner;
use thirtyfour::prelude::*;
use warm_blend_server::{Served, Workspace, offer_demo, serve};

use crate::{hand::Hand, line::Line};

/// How long something may take to be there.
pub(crate) const PATIENCE: Duration = Duration::from_secs(30);

/// A browser on a workspace.
pub struct Painter {
    pub driver: WebDriver,
    pub base: String,
    devtools: Cdp,
    marks: AtomicU32,
    /// How often something was clicked.
    pub(crate) clicks: AtomicU32,
    pub(crate) hand: Hand,
    chromedriver: Child,
    /// None where the program runs at another machine.
    served: Option<Served>,
    /// Between page and program, where it was asked for.
    line: Option<Line>,
    folder: TempDir,
}

/// Between two looks at the page.
pub(crate) async fn pause() {
    tokio::time::sleep(Duration::from_millis(50)).await;
}

impl Painter {
    /// Opens the shelf of the demo workspace at 1280×800.
    pub async fn at_the_demo() -> Self {
        Self::before(|file| Workspace::demo(file).expect("the demo opens"), "/shelf").await
    }

    /// Opens the demo workspace at its start page.
    pub async fn at_the_door() -> Self {
        Self::before(|file| Workspace::demo(file).expect("the demo opens"), "/").await
    }

    /// Opens the demo workspace with a simulated scale.
    pub async fn at_the_demo_with_a_scale() -> Self {
        let scale = warm_blend_server::simulated_scale::run(0).await.expect("a scale");
        let open = |file: &Path| {
            let workspace = Workspace::demo(file).expect("the demo opens");
            workspace.connect_scale(scale);
            workspace
        };
        Self::before(open, "/shelf").await
    }

    /// Opens an empty workspace.
    pub async fn at_an_empty_bench() -> Self {
        let open = |file: &Path| offer_demo(Workspace::open(file).expect("a new workspace opens"));
        Self::before(open, "/shelf").await
    }

    /// Opens the demo through a connection that can be made faulty.
    pub async fn at_the_demo_on_a_line() -> Self {
        Self::on(|file| Workspace::demo(file).expect("the demo opens"), "/shelf", true).await
    }

    async fn before(open: impl FnOnce(&Path) -> Workspace, at: &str) -> Self {
        Self::on(open, at, false).await
    }

    async fn on(open: impl FnOnce(&Path) -> Workspace, at: &str, faulty: bool) -> Self {
        let folder = tempfile::tempdir().expect("a folder");
        let served = serve(open(&folder.path().join("workspace.db")), 0).await.expect("a port");
        let line = if faulty { Some(Line::to(served.address).await) } else { None };
        let base = line.as_ref().map_or_else(|| served.url(), Line::url);
        Self::in_a_browser(base, at, (Some(served), line), folder).await
    }

    /// Opens a workspace of another machine, whose certificate this browser does not know and accepts.
    pub async fn at_another_machine(base: &str) -> Self {
        let folder = tempfile::tempdir().expect("a folder");
        Self::in_a_browser(base.to_owned(), "/", (None, None), folder).await
    }

    async fn in_a_browser(
        base: String,
        at: &str,
        (served, line): (Option<Served>, Option<Line>),
        folder: TempDir,
    ) -> Self {
        let (chromedriver, port) = start_chromedriver();
        let driver = connect(port, folder.path()).await;
        let devtools = driver.cdp();
        let (marks, clicks) = (AtomicU32::new(0), AtomicU32::new(0));
        let hand = Hand::Mouse;
        let painter =
            Self { driver, base, devtools, marks, clicks, hand, chromedriver, served, line, folder };
        painter.size(1280, 800).await;
        // Else the accessibility tree is built anew for every question.
        painter.cdp("Accessibility.enable", json!({})).await;
        // Whatever the page's policy refuses, and whatever goes wrong unheard, is kept to be asked for at the end.
        let listen = "window.complaints = [];
            addEventListener('securitypolicyviolation', e => complaints.push(e.violatedDirective + ' ' + e.blockedURI));
            addEventListener('error', e => complaints.push(e.message));
            addEventListener('unhandledrejection', e => complaints.push(String(e.reason)));";
        painter.cdp("Page.addScriptToEvaluateOnNewDocument", json!({"source": listen})).await;
        painter.open(at).await;
        painter
    }

    /// The connection between page and program.
    pub fn line(&self) -> &Line {
        self.line.as_ref().expect("a painter on a line")
    }

    /// Replaces the program by another run of it on the same file.
    pub async fn restart(&mut self) {
        let file = self.file();
        let again = serve(Workspace::open(&file).expect("the file opens again"), 0).await.expect("a port");
        self.line().leads_to(again.address);
        self.served = Some(again);
    }

    /// Path of the workspace file.
    pub fn file(&self) -> PathBuf {
        self.folder.path().join("workspace.db")
    }

    /// Goes to an address of the application.
    pub async fn open(&self, path: &str) {
        self.driver.goto(format!("{}{path}", self.base)).await.expect("the page opens");
    }

    /// Resizes the window.
    pub async fn size(&self, width: u32, height: u32) {
        let metrics =
            json!({"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600});
        self.cdp("Emulation.setDeviceMetricsOverride", metrics).await;
    }

    async fn cdp(&self, command: &str, params: Value) -> Value {
        self.devtools.send_raw(command, params).await.expect("the browser obeys")
    }

    /// Disables the browser's cache.
    pub async fn without_cache(&self) {
        self.cdp("Network.enable", json!({})).await;
        self.cdp("Network.setCacheDisabled", json!({"cacheDisabled": true})).await;
    }

    /// Holds up every request to a path that begins so, on this page and the next ones, until it is let go.
    pub async fn holds_up(&self, path: &str) {
        self.around_requests(path, "await held();", "").await;
    }

    /// Holds up the first answer from a path that begins so, on this page and the next ones, until it is let go. It was given in time, and
    /// may be out of date when it arrives.
    pub async fn holds_up_first_answer(&self, path: &str) {
        self.around_requests(path, "const first = !asked; asked = true;", "if (first) await held();").await;
    }

    /// Lets go of what was held up on this page.
    pub async fn lets_go(&self, path: &str) {
        let script = format!("(window.letGo ??= {{}})[{path:?}] = true");
        self.driver.execute(&script, vec![]).await.expect("a page");
    }

    /// Runs scripts before a request to a path is sent and after its answer is there.
    async fn around_requests(&self, path: &str, before: &str, after: &str) {
        let script = format!(
            "{{ const send = window.fetch;
                let asked = false;
                const held = async () => {{
                    while (!window.letGo?.[{path:?}]) await new Promise(done => setTimeout(done, 20));
                }};
                window.fetch = async (request, how) => {{
                    if (!new URL(request.url ?? request, location.href).pathname.startsWith({path:?}))
                        return send(request, how);
                    {before}
                    const answer = await send(request, how);
                    {after}
                    return answer;
                }}; }}"
        );
        self.driver.execute(&script, vec![]).await.expect("a page");
        self.cdp("Page.addScriptToEvaluateOnNewDocument", json!({"source": script})).await;
    }

    /// The page as it is printed, a PDF file.
    pub async fn on_paper(&self) -> Vec<u8> {
        let printed =
            self.cdp("Page.printToPDF", json!({"preferCSSPageSize": true, "printBackground": false})).await;
        let data = printed["data"].as_str().unwrap_or_default();
        base64::engine::general_purpose::STANDARD.decode(data).expect("a file")
    }

    /// Number of printed pages.
    pub async fn pages_on_paper(&self) -> usize {
        let pdf = self.on_paper().await;
        // Every page is an object of its type; the list of them is /Pages.
        let page = b"/Type /Page";
        pdf.windows(page.len() + 1).filter(|at| at.starts_with(page) && at[page.len()] != b's').count()
    }

    /// Everything of a role, with its name, that is there now.
    async fn all(&self, role: &str) -> Vec<(String, u64)> {
        let Ok(document) = self.devtools.send_raw("DOM.getDocument", json!({"depth": 0})).await else {
            return Vec::new();
        };
        let query = json!({"nodeId": document["root"]["nodeId"], "role": role});
        let Ok(found) = self.devtools.send_raw("Accessibility.queryAXTree", query).await else {
            return Vec::new(); // the page was being replaced
        };
        let nodes = found["nodes"].as_array().cloned().unwrap_or_default();
        let seen = nodes.iter().filter(|node| node["ignored"] != true);
        seen.filter_map(|node| {
            Some((
                node["name"]["value"].as_str().unwrap_or("").to_owned(),
                node["backendDOMNodeId"].as_u64()?,
            ))
        })
        .collect()
    }

    /// Names of all elements of a role that are there now.
    pub async fn names(&self, role: &str) -> Vec<String> {
        self.all(role).await.into_iter().map(|(name, _)| name).collect()
    }

    async fn look_for(&self, role: &str, name: &str) -> Option<WebElement> {
        let all = self.all(role).await;
        // The exact name first; a name that begins so where a row says more after it.
        let exact = all.iter().find(|(found, _)| found == name);
        let (_, backend) = exact.or_else(|| all.iter().find(|(found, _)| found.starts_with(name)))?;
        let push = json!({"backendNodeIds": [backend]});
        let pushed = self.devtools.send_raw("DOM.pushNodesByBackendIdsToFrontend", push).await.ok()?;
        let mark = format!("found-{}", self.marks.fetch_add(1, Ordering::Relaxed));
        let set = json!({"nodeId": pushed["nodeIds"][0], "name": "data-e2e", "value": mark});
        self.devtools.send_raw("DOM.setAttributeValue", set).await.ok()?;
        self.driver.find(By::Css(format!("[data-e2e={mark}]"))).await.ok()
    }

    /// Waits for the element of this role and name.
    pub async fn the(&self, role: &str, name: &str) -> WebElement {
        self.the_within(PATIENCE, role, name).await
    }

    async fn the_within(&self, patience: Duration, role: &str, name: &str) -> WebElement {
        let until = Instant::now() + patience;
        while Instant::now() < until {
            if let Some(found) = self.look_for(role, name).await {
                return found;
            }
            pause().await;
        }
        panic!("no {role} “{name}”; there are: {:?}", self.names(role).await);
    }

    /// Waits four times as long, for what takes long to compute where nothing is optimised.
    pub async fn the_computed(&self, role: &str, name: &str) -> WebElement {
        self.the_within(4 * PATIENCE, role, name).await
    }

    /// Waits until there is no element of this role and name.
    pub async fn gone(&self, role: &str, name: &str) {
        self.until(&format!("{role} “{name}” is gone"), async || {
            self.look_for(role, name).await.is_none()
        })
        .await;
    }

    /// Closes a dialog with Escape, and presses it again if the dialog is still there.
    pub async fn escape(&self, dialog: &str) {
        self.until(&format!("Escape closes “{dialog}”"), async || {
            self.press(Key::Escape).await;
            self.look_for("dialog", dialog).await.is_none()
        })
        .await;
    }

    /// Waits until a condition holds.
    pub async fn until(&self, what: &str, holds: impl AsyncFn() -> bool) {
        self.until_within(PATIENCE, what, holds).await;
    }

    /// Waits so long until a condition holds.
    pub async fn until_within(&self, patience: Duration, what: &str, holds: impl AsyncFn() -> bool) {
        let until = Instant::now() + patience;
        while !holds().await {
            if Instant::now() > until {
                let page = self.driver.find(By::Tag("body")).await.expect("a page").text().await;
                panic!("in vain waited for: {what}\n{}", page.unwrap_or_default());
            }
            pause().await;
        }
    }

    /// Emulates a touchscreen from the next page on.
    pub async fn with_touchscreen(&self) {
        self.cdp("Emulation.setTouchEmulationEnabled", json!({ "enabled": true, "maxTouchPoints": 5 })).await;
    }

    /// Sends a touch event: `touchStart`, `touchMove` or `touchEnd`, with the positions of all fingers.
    pub async fn touch(&self, what: &str, fingers: &[(f64, f64)]) {
        let points: Vec<Value> = fingers.iter().map(|(x, y)| json!({ "x": x, "y": y })).collect();
        let params = json!({ "type": what, "touchPoints": points });
        self.cdp("Input.dispatchTouchEvent", params).await;
    }

    /// Waits until fonts are loaded and nothing moves any more.
    pub async fn settled(&self) {
        let ask = "const done = arguments[0];
            document.fonts.ready.then(() => Promise.allSettled(document.getAnimations().map(a => a.finished)))
                .then(() => requestAnimationFrame(() => requestAnimationFrame(done)));";
        self.driver.execute_async(ask, vec![]).await.expect("the page settles");
    }

    /// Waits until all boards and pieces on the page are drawn in full quality.
    pub async fn drawn_finely(&self) {
        let ask = "return [...document.querySelectorAll('img[data-drawn]')].every(one => one.dataset.drawn === 'finely')";
        self.until("all is drawn finely", async || {
            let drawn = self.driver.execute(ask, vec![]).await.expect("a page");
            drawn.json().as_bool().unwrap_or(false)
        })
        .await;
    }

    /// Waits until the page contains a text.
    pub async fn reads(&self, text: &str) {
        self.until(&format!("the page reads “{text}”"), async || self.text().await.contains(text)).await;
    }

    /// Waits until the page has this title.
    pub async fn titled(&self, title: &str) {
        self.until(&format!("a page titled {title:?}"), async || {
            self.driver.title().await.is_ok_and(|now| now == title)
        })
        .await;
    }

    /// The text of the page.
    pub async fn text(&self) -> String {
        match self.driver.find(By::Tag("body")).await {
            Ok(body) => body.text().await.unwrap_or_default(),
            Err(_) => String::new(),
        }
    }

    /// Number of clicks so far.
    pub fn clicks(&self) -> u32 {
        self.clicks.load(Ordering::Relaxed)
    }

    /// Replaces the text in a field.
    pub async fn write(&self, role: &str, name: &str, text: &str) {
        self.click(role, name).await;
        let field = self.the(role, name).await;
        field.send_keys(Key::Control + "a").await.expect("keys");
        field.send_keys(text).await.expect("keys");
    }

    /// What a link leads to, as it is downloaded.
    pub async fn download(&self, link: &str) -> Vec<u8> {
        let to = self.the("link", link).await.attr("href").await.expect("a link").expect("an address");
        let answer = reqwest::get(format!("{}{to}", self.base)).await.expect("an answer");
        assert!(answer.status().is_success(), "{to}: {}", answer.status());
        answer.bytes().await.expect("a file").to_vec()
    }

    /// Selects a file in the file input of this name.
    pub async fn bring(&self, name: &str, file: &str, bytes: &[u8]) {
        let path = self.folder.path().join(file);
        std::fs::write(&path, bytes).expect("a file");
        let field = self.the("button", name).await;
        field
            .send_keys(path.to_str().expect("a path of plain letters"))
            .await
            .expect("the field takes the file");
    }

    /// Value of a field.
    pub async fn value(&self, role: &str, name: &str) -> String {
        loop {
            match self.the(role, name).await.prop("value").await {
                Ok(value) => return value.unwrap_or_default(),
                // It was drawn anew between being found and being read.
                Err(error) if matches!(error.as_inner(), WebDriverErrorInner::StaleElementReference(_)) => {}
                Err(error) => panic!("no value of {role} “{name}”: {error}"),
            }
        }
    }

    /// Presses keys at the current focus.
    pub async fn press(&self, keys: impl Into<TypingData>) {
        self.driver.action_chain().send_keys(keys).perform().await.expect("keys");
    }

    /// Holds a key until something has come of it, as a hand does: a group of options moves its focus only after the key was heard.
    pub async fn hold(&self, key: Key, what: &str, holds: impl AsyncFn() -> bool) {
        self.driver.action_chain().key_down(key.clone()).perform().await.expect("a key");
        self.until(what, holds).await;
        self.driver.action_chain().key_up(key).perform().await.expect("a key");
    }

    /// Presses a key with Alt.
    pub async fn alt(&self, key: char) {
        let chain = self.driver.action_chain().key_down(Key::Alt).send_keys(key.to_string()).key_up(Key::Alt);
        chain.perform().await.expect("keys");
    }

    /// Presses a key with Control.
    pub async fn control(&self, key: char) {
        let chain = self.driver.action_chain().key_down(Key::Control).send_keys(key.to_string());
        chain.key_up(Key::Control).perform().await.expect("keys");
    }

    /// Presses Tab until the focus is on the element of this role and name.
    pub async fn tab_to(&self, role: &str, name: &str) {
        let goal = self.the(role, name).await;
        for _ in 0..150 {
            let here = self.driver.active_element().await.expect("a focus");
            if here == goal {
                return;
            }
            self.press(Key::Tab).await;
        }
        panic!("Tab never reached {role} “{name}”");
    }

    /// Computed fill colour of a swatch with this role and name.
    pub async fn fill(&self, role: &str, name: &str) -> String {
        self.the(role, name).await.css_value("background-color").await.expect("a colour")
    }

    /// Waits until everything is saved.
    pub async fn saved(&self) {
        self.until("everything is saved", async || {
            let status = self.driver.find(By::Css("header [role=status]")).await;
            match status {
                Ok(status) => {
                    status.prop("textContent").await.is_ok_and(|text| text.as_deref() == Some("Saved"))
                }
                Err(_) => false,
            }
        })
        .await;
    }

    /// Makes a change through the API, as another tab would.
    pub async fn meanwhile(&self, method: &str, path: &str, body: Value) -> Value {
        let ask = "const [method, path, body, done] = arguments;
            const headers = {'content-type': 'application/json'};
            fetch(path, {method, headers, ...(method === 'GET' ? {} : {body: JSON.stringify(body)})})
                .then(answer => (answer.status === 204 ? null : answer.json())).then(done);";
        let answer =
            self.driver.execute_async(ask, vec![json!(method), json!(path), body]).await.expect("an answer");
        answer.json().clone()
    }

    /// Violations that axe-core finds on the page.
    pub async fn violations(&self) -> Vec<String> {
        let axe = web_folder().join("node_modules/axe-core/axe.min.js");
        let source = std::fs::read_to_string(&axe)
            .unwrap_or_else(|_| panic!("{} is missing: run `make web`", axe.display()));
        self.driver.execute(&source, vec![]).await.expect("axe-core loads");
        let run = "const done = arguments[arguments.length - 1];
            axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']}).then(
                r => done(r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target + ' ' + n.failureSummary).join(' | '))));";
        let found = self.driver.execute_async(run, vec![]).await.expect("axe-core runs");
        found.convert().expect("a list")
    }

    /// Closes the browser; errors logged by the page fail the test.
    pub async fn leave(self) {
        let complaints = self.driver.execute("return window.complaints", vec![]).await.expect("a page");
        let complaints: Vec<String> = complaints.convert().expect("a list");
        assert!(complaints.is_empty(), "{complaints:?}");
        self.driver.clone().quit().await.expect("the browser closes");
    }
}

impl Drop for Painter {
    fn drop(&mut self) {
        drop(self.chromedriver.kill());
        drop(self.chromedriver.wait());
        // Its browser goes with it, also when a test fails half-way: it is known by the folder it keeps its profile in.
        let profile = self.folder.path().join("browser");
        drop(Command::new("pkill").args(["-9", "-f"]).arg(profile).status());
    }
}

fn web_folder() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web")
}

fn start_chromedriver() -> (Child, u16) {
    let port =
        TcpListener::bind("127.0.0.1:0").and_then(|free| free.local_addr()).expect("a free port").port();
    let child = Command::new("chromedriver")
        .arg(format!("--port={port}"))
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .expect("chromedriver is missing: run `make test`, which installs it");
    (child, port)
}

async fn connect(port: u16, folder: &Path) -> WebDriver {
    let mut wanted = DesiredCapabilities::chrome();
    for argument in [
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-dev-shm-usage",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--force-color-profile=srgb",
        "--lang=en",
        "--ignore-certificate-errors",
    ] {
        wanted.add_arg(argument).expect("an argument");
    }
    wanted.add_arg(&format!("--user-data-dir={}", folder.join("browser").display())).expect("an argument");
    let until = Instant::now() + PATIENCE;
    loop {
        match WebDriver::new(format!("http://127.0.0.1:{port}"), wanted.clone()).await {
            Ok(driver) => return driver,
            Err(_) if Instant::now() < until => tokio::time::sleep(Duration::from_millis(100)).await,
            Err(error) => panic!("Chromium does not start: {error}"),
        }
    }
}
