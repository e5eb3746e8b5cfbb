//! How much memory the program takes.

use std::{fs, io::Cursor, time::Duration};

use serde_json::Value;

use super::{Running, serve, start};

impl Running {
    /// A line of what the system says of its memory, MB.
    fn megabytes(&self, line: &str) -> usize {
        let status = fs::read_to_string(format!("/proc/{}/status", self.child.id())).unwrap();
        let line = status.lines().find_map(|said| said.strip_prefix(line)?.strip_prefix(':')).unwrap();
        line.split_whitespace().next().unwrap().parse::<usize>().unwrap() / 1024
    }

    /// What is in its memory now.
    pub(super) fn resident(&self) -> usize {
        self.megabytes("VmRSS")
    }

    /// The most that ever was.
    fn peak(&self) -> usize {
        self.megabytes("VmHWM")
    }
}

/// Everything that a screen shows of the demo was drawn, quick and fine: most of what that took is given back.
#[tokio::test]
async fn after_every_picture_most_memory_is_given_back() {
    let running = start(&["demo", "--port", "0"]);
    let client = reqwest::Client::new();
    let base = &running.base;
    let get = async |path: &str| -> Value {
        client.get(format!("{base}/api/{path}")).send().await.unwrap().json().await.unwrap()
    };
    let mut asked = Vec::new();
    for board in get("boards").await.as_array().unwrap() {
        let id = board["id"].as_str().unwrap();
        asked.extend(
            ["width=520&height=260", "width=840&height=420", "width=840&height=420&fine=true"]
                .map(|how| tokio::spawn(client.get(format!("{base}/api/boards/{id}/picture?{how}")).send())),
        );
    }
    let piece = &get("piece").await["entry"];
    for how in ["view=front", "view=front&fine=true", "view=side&fine=true", "view=top"] {
        let at = format!("{base}/api/piece/picture?width=960&height=720&{how}");
        asked.push(tokio::spawn(client.post(at).json(piece).send()));
    }
    for asked in asked {
        assert_eq!(asked.await.unwrap().unwrap().status(), 200);
    }
    for _ in 0..300 {
        if running.resident() < 200 {
            return;
        }
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    panic!("{} MB stay", running.resident());
}

/// Eight photos of 64 megapixels at once, each as long as is taken in, and one of 16 bits a channel.
#[tokio::test]
async fn large_photos_take_turns() {
    let folder = tempfile::tempdir().unwrap();
    let running = serve(&folder.path().join("workspace.db"));
    // No connection is used again: while the next photo is made up, the program may have closed it.
    let client = reqwest::Client::builder().pool_max_idle_per_host(0);
    // Nor does it give up on one whose turn has not come.
    let client = client.tcp_user_timeout(None::<std::time::Duration>).build().unwrap();
    let bring = |photo: &[u8]| {
        let to = format!("{}/api/photos", running.base);
        tokio::spawn(
            client.post(to).header("content-type", "application/octet-stream").body(photo.to_vec()).send(),
        )
    };
    let mut deep = Cursor::new(Vec::new());
    let grey = image::ImageBuffer::from_pixel(8000, 8000, image::Luma([32_896u16]));
    grey.write_to(&mut deep, image::ImageFormat::Png).unwrap();
    assert_eq!(bring(deep.get_ref()).await.unwrap().unwrap().status(), 201);
    assert!(running.peak() < 200, "{} MB", running.peak());

    let mut long = Cursor::new(Vec::new());
    image::RgbImage::from_pixel(8000, 8000, image::Rgb([128; 3]))
        .write_to(&mut long, image::ImageFormat::Jpeg)
        .unwrap();
    // What follows a photo in its file is not looked at.
    let mut long = long.into_inner();
    long.resize(38 << 20, 0);
    for brought in (0..8).map(|_| bring(&long)).collect::<Vec<_>>() {
        assert_eq!(brought.await.unwrap().unwrap().status(), 201);
    }
    assert!(running.peak() < 600, "{} MB", running.peak());
}
