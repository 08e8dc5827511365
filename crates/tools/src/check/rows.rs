//! Rows of clips whose names look like facings that were misspelled.

use lucky_reel_assets::document::{Entry, Node};
use lucky_reel_assets::{Problem, SourceFile};
use lucky_reel_core::Facing;
use lucky_reel_core::NameError;

pub(super) fn warnings(file: &SourceFile) -> Vec<Problem> {
    let mut found = Vec::new();
    for clip in entries(file.root().get("clips")) {
        for row in entries(clip.node.get("rows")) {
            let names = Facing::ALL.map(Facing::name);
            let near = NameError::nearest(&row.key, names)
                .filter(|_| Facing::from_name(&row.key).is_none());
            let Some(near) = near else { continue };
            let key = format!("clips.{}.rows.{}", clip.key, row.key);
            let what = format!("the row `{}` is no facing, and so of no facing set", row.key);
            let fix = format!("did you mean `{near}`?");
            found.push(file.warning_at(row.key_span.clone(), key, what, fix));
        }
    }
    found
}

fn entries(node: Option<&Node>) -> &[Entry] {
    node.and_then(Node::table).unwrap_or_default()
}
