//! Pressing and choosing: with a mouse, a finger, or keys alone.

use std::time::Instant;

use thirtyfour::prelude::*;

use crate::{
    hand::Hand,
    painter::{PATIENCE, Painter, pause},
};

impl Painter {
    /// The same painter, working with something else than a mouse.
    pub async fn by(mut self, hand: Hand) -> Self {
        if hand == Hand::Finger {
            self.with_touchscreen().await;
        }
        self.hand = hand;
        self
    }

    /// Waits until the element of this role and name can be pressed, and presses it.
    pub async fn click(&self, role: &str, name: &str) {
        self.clicks.fetch_add(1, std::sync::atomic::Ordering::Relaxed);
        let until = Instant::now() + PATIENCE;
        loop {
            let found = self.the(role, name).await;
            // What is still switched off takes a click and does nothing.
            if !found.is_enabled().await.unwrap_or(false) && Instant::now() < until {
                pause().await;
                continue;
            }
            match self.press_on(&found, role, name).await {
                Ok(()) => return,
                // Still moving, or replaced between finding and clicking.
                Err(_) if Instant::now() < until => pause().await,
                Err(error) => panic!("cannot click {role} “{name}”: {error}"),
            }
        }
    }

    async fn press_on(&self, found: &WebElement, role: &str, name: &str) -> WebDriverResult<()> {
        match self.hand {
            Hand::Mouse => found.click().await,
            Hand::Finger => self.tap(found).await,
            Hand::Keys if role == "radio" => self.arrow_to(found).await,
            Hand::Keys if role == "menuitem" => self.down_to(found).await,
            Hand::Keys => {
                self.tab_to(role, name).await;
                self.press(if role == "checkbox" { Key::Space } else { Key::Enter }).await;
                Ok(())
            }
        }
    }

    /// Taps an element where nothing covers it.
    async fn tap(&self, found: &WebElement) -> WebDriverResult<()> {
        let ask = "const [one, done] = arguments;
            one.scrollIntoView({block: 'center', behavior: 'instant'});
            requestAnimationFrame(() => {
                const box = one.getBoundingClientRect();
                const at = [box.x + box.width / 2, box.y + box.height / 2];
                const top = document.elementFromPoint(...at);
                done(top && (one.contains(top) || top.contains(one)) ? at : null);
            });";
        let at = self.driver.execute_async(ask, vec![found.to_json()?]).await?;
        let Ok((x, y)) = at.convert::<(f64, f64)>() else {
            return Err(WebDriverError::Timeout("something covers it".into()));
        };
        self.touch("touchStart", &[(x, y)]).await;
        self.touch("touchEnd", &[]).await;
        Ok(())
    }

    /// Goes to a group of choices by Tab, and to one of them by arrows.
    async fn arrow_to(&self, found: &WebElement) -> WebDriverResult<()> {
        let within = "const group = arguments[0].closest('[role=radiogroup], [role=group]');
            return group !== null && group.contains(document.activeElement);";
        for _ in 0..150 {
            if self.driver.execute(within, vec![found.to_json()?]).await?.json() == true {
                break;
            }
            self.press(Key::Tab).await;
        }
        for _ in 0..12 {
            if self.driver.active_element().await? == *found {
                if found.attr("aria-checked").await?.as_deref() != Some("true") {
                    self.press(Key::Space).await;
                }
                return Ok(());
            }
            self.press(Key::Right).await;
            pause().await;
        }
        Err(WebDriverError::Timeout("the arrows do not lead to it".into()))
    }

    /// Goes down a menu or a list by arrows to one of its entries, and takes it.
    async fn down_to(&self, found: &WebElement) -> WebDriverResult<()> {
        for _ in 0..60 {
            if self.driver.active_element().await.is_ok_and(|here| here == *found) {
                self.press(Key::Enter).await;
                return Ok(());
            }
            self.press(Key::Down).await;
            pause().await;
        }
        Err(WebDriverError::Timeout("the arrows do not lead to it".into()))
    }

    /// Chooses an option in a list.
    pub async fn choose(&self, list: &str, option: &str) {
        self.click("combobox", list).await;
        if self.hand == Hand::Finger {
            return self.click("option", option).await;
        }
        // A list that is sought in has a field; in another what has the focus is chosen wherever it stands.
        let here = self.driver.active_element().await.expect("a focus");
        if here.tag_name().await.expect("a tag") == "input" {
            self.press(option).await;
            self.the("option", option).await;
        } else if self.hand == Hand::Keys {
            let goal = self.the("option", option).await;
            return self.down_to(&goal).await.expect("arrows lead to it");
        } else {
            self.the("option", option).await.focus().await.expect("an option takes the focus");
        }
        self.press(Key::Enter).await;
    }
}
