//! Practice for the eye.

use axum::extract::State;
use jiff::Timestamp;
use warm_blend_store::Store;
use warm_blend_workshop::{AnswerChecked, AnswerGiven, PracticeView, Question, QuestionAsked};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    off_thread::off_thread,
    problem::Problem,
};

/// What can be practised, and how it goes.
#[utoipa::path(get, path = "/practice", operation_id = "get_practice", tag = "guide",
    responses((status = OK, body = PracticeView)))]
pub async fn get(State(workspace): State<Workspace>) -> Answer<PracticeView> {
    let (answers, shelf) = workspace.with_shelf(|store| store.answers()).await?;
    off_thread(move || Ok(PracticeView::of(&shelf, &answers)?)).await.map(Json)
}

/// A question of a skill, made from the shelf; nothing is saved.
#[utoipa::path(get, path = "/practice/question", operation_id = "get_question", tag = "guide", params(QuestionAsked),
    responses((status = OK, body = Question)))]
pub async fn question(
    State(workspace): State<Workspace>,
    Query(asked): Query<QuestionAsked>,
) -> Answer<Question> {
    let shelf = workspace.shelf().await?;
    off_thread(move || Ok(shelf.question(asked)?)).await.map(Json)
}

/// Check an answer and keep whether it was right. No document is changed, and undo passes it over.
#[utoipa::path(post, path = "/practice/answers", operation_id = "give_answer", tag = "guide",
    responses((status = OK, body = AnswerChecked)))]
pub async fn answer(
    State(workspace): State<Workspace>,
    Json(given): Json<AnswerGiven>,
) -> Answer<AnswerChecked> {
    let (earlier, shelf) = workspace.with_shelf(|store| store.answers()).await?;
    let (kept, checked) =
        off_thread(move || Ok::<_, Problem>(given.check(&shelf, &earlier, Timestamp::now())?)).await?;
    workspace.with(move |store: &mut Store| store.keep_answers(&[kept])).await?;
    Ok(Json(checked))
}
