// Live answers while a value is still moving: over a socket, and by plain requests where there is none. One question is
// under way at a time and the newest is next; an answer that is older than what is shown is dropped. What is asked when
// the hand rests goes beside them, so that a hand that moves on does not wait for it.

import * as server from "./server.js";

const RESTS_AFTER = 250;
const TRIES_AGAIN_AFTER = 30000;

const main = document.getElementById("main");
let socket = null;
let refusedAt = -TRIES_AGAIN_AFTER;
let number = 0;
let underWay = null;
let next = null;
let resting = 0;
let rest = null;
let waiting = new Map();

function open() {
  if (socket || !("socket" in main.dataset) || performance.now() - refusedAt < TRIES_AGAIN_AFTER) return;
  const scheme = location.protocol === "https:" ? "wss" : "ws";
  socket = new WebSocket(`${scheme}://${location.host}/live/`);
  socket.addEventListener("message", (event) => {
    const answer = JSON.parse(event.data);
    waiting.get(answer.seq)?.resolve(answer);
    waiting.delete(answer.seq);
  });
  socket.addEventListener("close", () => {
    if (socket.readyState !== WebSocket.OPEN) refusedAt = performance.now();
    socket = null;
    for (const { reject } of waiting.values()) reject(new Error("closed"));
    waiting = new Map();
  });
}

function bySocket(question) {
  return new Promise((resolve, reject) => {
    waiting.set(question.seq, { resolve, reject });
    const { token } = main.dataset;
    socket.send(JSON.stringify({ ...question, token, language: document.documentElement.lang }));
  });
}

async function byRequest(question) {
  const answer = await server.tryOut(question);
  main.dataset.token = answer.token;
  return answer;
}

async function answerTo(question) {
  open();
  if (socket?.readyState === WebSocket.OPEN) {
    const answer = await bySocket(question).catch(() => null);
    if (answer && answer.code !== "stale-token") return answer;
  }
  return byRequest(question);
}

// Asks until nothing newer waits; `shown` gets each answer that is still of use, while the next is worked out already.
async function goOn(question) {
  underWay = question;
  const answer = await answerTo(question).catch(() => null);
  underWay = null;
  const asked = askOn(question, answer);
  if (answer && question.shown && question.revision === server.revision()) question.shown(answer);
  if (!asked && answer && answer.error === undefined && question.whenRested) {
    resting = setTimeout(() => askAtRest(question), RESTS_AFTER);
  }
}

// What is asked next, if anything is: the newest that waits, or the rest of an answer that is not complete.
function askOn(question, answer) {
  if (next) {
    const newer = next;
    next = null;
    // What takes long follows a hand that does not rest, too: at half its pace.
    goOn(answer?.more ? { ...newer, whole: true } : newer);
  } else if (answer?.more) {
    goOn({ ...question, seq: (number += 1), whole: true });
  }
  return underWay !== null;
}

async function askAtRest(question) {
  const asked = { ...question, seq: (number += 1), rested: true };
  rest = asked;
  const answer = await answerTo(asked).catch(() => null);
  if (answer && rest === asked && asked.revision === server.revision()) question.whenRested(answer);
}

// The hand moves on: what was asked when it rested is of no use any more.
function restNoMore() {
  clearTimeout(resting);
  rest = null;
}

export function tryOut(kind, given, shown, whenRested) {
  restNoMore();
  const question = { seq: (number += 1), kind, given, state: server.looking(), revision: server.revision(), shown, whenRested };
  if (underWay) next = question;
  else goOn(question);
}

// What is under way is of no use any more.
export function leaveOff() {
  restNoMore();
  next = null;
  if (underWay) underWay.shown = underWay.whenRested = null;
}

open();
