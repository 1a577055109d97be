//! Accounts: who may come in, by which role, and the links by which passwords are chosen.

use crate::acts::{self, Act};
use crate::people::add_person;
use crate::secrets;
use crate::words;
use crate::{Store, StoreError, rows};
use cobaltine_core::limits::NAME;
use cobaltine_core::record::{Person, Signed};
use cobaltine_core::role::Role;
use jiff::{SignedDuration, Timestamp};
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use std::collections::HashMap;
use std::sync::{Arc, PoisonError};
use uuid::Uuid;

/// Letters of a password.
const PASSWORD: std::ops::RangeInclusive<usize> = 10..=200;
/// How long a link is open: the first one is used at once, one for a colleague within days.
const FIRST_LINK: SignedDuration = SignedDuration::from_hours(1);
const LINK: SignedDuration = SignedDuration::from_hours(72);

/// The account of a person.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Account {
    /// Whose.
    pub person: Uuid,
    /// What the person is in the workshop.
    pub role: Role,
    /// A password was chosen; until then only the link leads in.
    pub has_password: bool,
    /// Changes with everything that ends the sessions of this person.
    pub stamp: String,
    /// Who let this person in last; none for the machine itself.
    pub vouched_by: Option<Uuid>,
    /// When that was.
    pub vouched_at: Timestamp,
    /// Nobody comes in by it any more.
    pub closed: bool,
}

/// All accounts, as they are now.
pub(crate) type Accounts = HashMap<Uuid, Account>;

/// What becomes of an account.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum AccountChange {
    /// It has this role from now on; made where there was none.
    Role(Role),
    /// Nobody comes in by it any more.
    Closed,
    /// Whoever is in by it is out.
    Ended,
}

impl Store {
    /// Every account, by the id of its person.
    pub fn accounts(&self) -> Arc<Accounts> {
        let held = self.shared.accounts.lock().unwrap_or_else(PoisonError::into_inner);
        Arc::clone(&held)
    }

    /// Whether somebody can come in as owner.
    pub fn has_owner(&self) -> bool {
        let owns = |one: &Account| one.role == Role::Owner && one.has_password && !one.closed;
        self.accounts().values().any(owns)
    }

    /// Who let this person in last, and when; none for the machine itself.
    pub fn vouched(&self, person: Uuid) -> Option<(Uuid, Timestamp)> {
        let accounts = self.accounts();
        let account = accounts.get(&person)?;
        Some((account.vouched_by?, account.vouched_at))
    }

    /// Looks the accounts up anew.
    pub(crate) async fn read_accounts(&self) -> Result<(), StoreError> {
        let found = sqlx::query("SELECT * FROM accounts").fetch_all(&self.pool).await?;
        let found = found.iter().map(|row| account(row).map(|one| (one.person, one)));
        let found: Accounts = found.collect::<Result<_, _>>()?;
        *self.shared.accounts.lock().unwrap_or_else(PoisonError::into_inner) = Arc::new(found);
        Ok(())
    }

    /// A link for the first owner, or for an owner who lost every other way in. Earlier ones close.
    ///
    /// # Errors
    /// The database error.
    pub async fn owner_link(&self, at: Timestamp) -> Result<String, StoreError> {
        let mut tx = self.write().await?;
        sqlx::query("DELETE FROM links WHERE person_id IS NULL").execute(&mut *tx).await?;
        let token = write_link(&mut tx, None, at + FIRST_LINK).await?;
        tx.commit().await?;
        Ok(token)
    }

    /// A link by which one person chooses a new password. Whoever gives it vouches for who uses it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without an open account.
    pub async fn link(&self, person: Uuid, signed: Signed) -> Result<String, StoreError> {
        let mut tx = self.write().await?;
        let done = sqlx::query(
            "UPDATE accounts SET vouched_by = ?2, vouched_at = ?3
             WHERE person_id = ?1 AND closed_at IS NULL",
        )
        .bind(person.to_string())
        .bind(signed.by.to_string())
        .bind(rows::stamp(signed.at))
        .execute(&mut *tx)
        .await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound("account"));
        }
        let token = write_link(&mut tx, Some(person), signed.at + LINK).await?;
        tx.commit().await?;
        self.read_accounts().await?;
        Ok(token)
    }

    /// Gives a role, closes an account, or ends its sessions.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; a field where it would leave the workshop without an owner.
    pub async fn change_account(
        &self,
        act: &Act,
        person: Uuid,
        change: AccountChange,
        signed: Signed,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let known = sqlx::query("SELECT 1 FROM people WHERE id = ?")
            .bind(person.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        if known.is_none() {
            return Err(StoreError::NotFound("person"));
        }
        let (stamp, at) = (Uuid::new_v4().to_string(), rows::stamp(signed.at));
        let query = match change {
            AccountChange::Role(role) => sqlx::query(
                "INSERT INTO accounts (person_id, role, stamp, vouched_by, vouched_at)
                 VALUES (?1, ?2, ?3, ?4, ?5) ON CONFLICT (person_id) DO UPDATE
                 SET role = ?2, stamp = ?3, closed_at = NULL,
                     vouched_by = IIF(closed_at IS NULL, vouched_by, ?4),
                     vouched_at = IIF(closed_at IS NULL, vouched_at, ?5)",
            )
            .bind(person.to_string())
            .bind(role.name())
            .bind(stamp)
            .bind(signed.by.to_string())
            .bind(at),
            AccountChange::Closed => {
                sqlx::query("UPDATE accounts SET closed_at = ?3, stamp = ?2 WHERE person_id = ?1")
                    .bind(person.to_string())
                    .bind(stamp)
                    .bind(at)
            }
            AccountChange::Ended => {
                sqlx::query("UPDATE accounts SET stamp = ?2 WHERE person_id = ?1")
                    .bind(person.to_string())
                    .bind(stamp)
            }
        };
        if query.execute(&mut *tx).await?.rows_affected() == 0 {
            return Err(StoreError::NotFound("account"));
        }
        if change == AccountChange::Closed {
            sqlx::query("DELETE FROM links WHERE person_id = ?")
                .bind(person.to_string())
                .execute(&mut *tx)
                .await?;
        }
        let owners = sqlx::query(
            "SELECT COUNT(*) AS here FROM accounts JOIN people ON people.id = person_id
             WHERE role = 'owner' AND password IS NOT NULL AND closed_at IS NULL AND retired_at IS NULL",
        )
        .fetch_one(&mut *tx)
        .await?;
        if rows::count(&owners, "here")? == 0 {
            return Err(StoreError::field("role", words::LAST_OWNER_STAYS));
        }
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await?;
        self.read_accounts().await
    }

    /// Uses a link: its person chooses a password; the first owner is made. Gives who it is.
    ///
    /// # Errors
    /// A field: the link was used or is too old, the password is too short, the name is taken.
    pub async fn join(
        &self,
        token: &str,
        name: &str,
        password: &str,
        at: Timestamp,
    ) -> Result<Uuid, StoreError> {
        check_password(password)?;
        let hash = secrets::hashed(password.to_owned()).await?;
        let mut tx = self.write().await?;
        let used =
            sqlx::query("DELETE FROM links WHERE token = ?1 AND open_until > ?2 RETURNING *")
                .bind(rows::hexadecimal(token.as_bytes()))
                .bind(rows::stamp(at))
                .fetch_optional(&mut *tx)
                .await?;
        let used = used.ok_or_else(|| StoreError::field("token", words::LINK_USED_OR_OLD))?;
        let person = match rows::maybe_id(&used, "person_id")? {
            Some(person) => person,
            None => first_owner(&mut tx, name.trim(), at).await?,
        };
        sqlx::query("UPDATE accounts SET password = ?2, stamp = ?3 WHERE person_id = ?1")
            .bind(person.to_string())
            .bind(hash)
            .bind(Uuid::new_v4().to_string())
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        self.read_accounts().await?;
        Ok(person)
    }

    /// Chooses another password. The one that is set now was proven before.
    ///
    /// # Errors
    /// A field: it is too short.
    pub async fn set_password(&self, person: Uuid, password: &str) -> Result<(), StoreError> {
        check_password(password)?;
        let hash = secrets::hashed(password.to_owned()).await?;
        let mut tx = self.write().await?;
        sqlx::query("UPDATE accounts SET password = ?2, stamp = ?3 WHERE person_id = ?1")
            .bind(person.to_string())
            .bind(hash)
            .bind(Uuid::new_v4().to_string())
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        self.read_accounts().await
    }

    /// Who signs in by this name and password. A try is counted before it is looked at, for each name
    /// and place: a stranger who guesses locks nobody out but himself.
    ///
    /// # Errors
    /// [`StoreError::TooSoon`]; a field: the name or the password is wrong, which of them is not said.
    pub async fn prove_password(
        &self,
        name: &str,
        password: &str,
        place: &str,
        at: Timestamp,
    ) -> Result<Uuid, StoreError> {
        let name = name.trim();
        let who = rows::hexadecimal(format!("{}\n{place}", name.to_lowercase()).as_bytes());
        // Where nothing is written, tries are counted by the one who asks alone.
        let counts = self.read_only().is_none();
        if counts {
            let mut tx = self.write().await?;
            count_try(&mut tx, &who, at).await?;
            tx.commit_quietly().await?;
        }
        let found = sqlx::query(
            "SELECT person_id, password FROM accounts JOIN people ON people.id = person_id
             WHERE name = ? COLLATE NOCASE AND closed_at IS NULL AND retired_at IS NULL",
        )
        .bind(name)
        .fetch_optional(&self.pool)
        .await?;
        let hash = match &found {
            Some(row) => row.try_get::<Option<String>, _>("password")?,
            None => None,
        };
        let right =
            secrets::matches(hash, password.chars().take(*PASSWORD.end()).collect()).await?;
        let Some(row) = found.filter(|_| right) else {
            return Err(StoreError::field("password", words::WRONG_NAME_OR_PASSWORD));
        };
        let person = rows::id(&row, "person_id")?;
        if !counts {
            return Ok(person);
        }
        let mut tx = self.write().await?;
        sqlx::query("DELETE FROM tries WHERE who = ?").bind(who).execute(&mut *tx).await?;
        // Whoever has the password may forget the PIN.
        sqlx::query("UPDATE pins SET tries = 0, open_at = ?2 WHERE person_id = ?1")
            .bind(person.to_string())
            .bind(rows::stamp(at))
            .execute(&mut *tx)
            .await?;
        tx.commit_quietly().await?;
        Ok(person)
    }
}

fn check_password(password: &str) -> Result<(), StoreError> {
    if PASSWORD.contains(&password.chars().count()) {
        return Ok(());
    }
    Err(StoreError::field("password", words::password_letters(PASSWORD.start(), PASSWORD.end())))
}

async fn write_link(
    connection: &mut SqliteConnection,
    person: Option<Uuid>,
    open_until: Timestamp,
) -> Result<String, StoreError> {
    let (token, kept) = secrets::token();
    sqlx::query(
        "INSERT INTO links (token, person_id, open_until) VALUES (?1, ?2, ?3)
         ON CONFLICT (person_id) DO UPDATE SET token = ?1, open_until = ?3",
    )
    .bind(kept)
    .bind(person.map(|id| id.to_string()))
    .bind(rows::stamp(open_until))
    .execute(connection)
    .await?;
    Ok(token)
}

/// The person of this name, added where there is none, as owner.
async fn first_owner(
    connection: &mut SqliteConnection,
    name: &str,
    at: Timestamp,
) -> Result<Uuid, StoreError> {
    if name.is_empty() || name.chars().count() > NAME {
        return Err(StoreError::field("name", words::enter_name_characters(NAME)));
    }
    let here = sqlx::query("SELECT id, retired_at FROM people WHERE name = ? COLLATE NOCASE")
        .bind(name)
        .fetch_optional(&mut *connection)
        .await?;
    let person = match here {
        Some(row) if row.try_get::<Option<String>, _>("retired_at")?.is_some() => {
            return Err(StoreError::field("name", words::NAME_IS_RETIRED));
        }
        Some(row) => rows::id(&row, "id")?,
        None => {
            let person = Person::new(Uuid::now_v7(), name);
            add_person(connection, &person).await?;
            person.id
        }
    };
    sqlx::query(
        "INSERT INTO accounts (person_id, role, stamp, vouched_at) VALUES (?1, 'owner', '', ?2)
         ON CONFLICT (person_id) DO UPDATE SET role = 'owner', closed_at = NULL, vouched_by = NULL, vouched_at = ?2",
    )
    .bind(person.to_string())
    .bind(rows::stamp(at))
    .execute(connection)
    .await?;
    Ok(person)
}

/// Counts a try for whoever it is; refuses it while a pause goes on.
async fn count_try(
    connection: &mut SqliteConnection,
    who: &str,
    at: Timestamp,
) -> Result<(), StoreError> {
    // What nobody tried for a day is forgotten: the table stays as small as the attack.
    sqlx::query("DELETE FROM tries WHERE open_at < ?")
        .bind(rows::stamp(at - SignedDuration::from_hours(24)))
        .execute(&mut *connection)
        .await?;
    let row = sqlx::query("SELECT * FROM tries WHERE who = ?")
        .bind(who)
        .fetch_optional(&mut *connection)
        .await?;
    let tries = match &row {
        Some(row) => {
            let open_at = rows::time(&row.try_get::<String, _>("open_at")?)?;
            if at < open_at {
                return Err(StoreError::TooSoon { minutes: secrets::minutes(open_at, at) });
            }
            rows::count(row, "tries")? as u32 + 1
        }
        None => 1,
    };
    sqlx::query(
        "INSERT INTO tries (who, tries, open_at) VALUES (?1, ?2, ?3)
         ON CONFLICT (who) DO UPDATE SET tries = ?2, open_at = ?3",
    )
    .bind(who)
    .bind(tries)
    .bind(rows::stamp(at + secrets::pause(tries)))
    .execute(connection)
    .await?;
    Ok(())
}

fn account(row: &SqliteRow) -> Result<Account, StoreError> {
    Ok(Account {
        person: rows::id(row, "person_id")?,
        role: rows::name(row, "role")?,
        has_password: row.try_get::<Option<String>, _>("password")?.is_some(),
        stamp: row.try_get("stamp")?,
        vouched_by: rows::maybe_id(row, "vouched_by")?,
        vouched_at: rows::time(&row.try_get::<String, _>("vouched_at")?)?,
        closed: row.try_get::<Option<String>, _>("closed_at")?.is_some(),
    })
}
