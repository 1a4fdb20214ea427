import type { QueryInterface } from 'sequelize'

const tables = [
  // Stores and vans.
  `CREATE TABLE stock_places (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, name VARCHAR(80) NOT NULL, kind VARCHAR(8) NOT NULL, active TINYINT(1) NOT NULL,
    KEY stock_places_branch (branch_id), CONSTRAINT stock_places_branch_fk FOREIGN KEY (branch_id) REFERENCES branches (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  // What was moved, never changed. With a job: it follows from the record of that job.
  `CREATE TABLE stock_moves (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, article_id CHAR(36) NOT NULL, from_place_id CHAR(36) NULL, to_place_id CHAR(36) NULL, quantity INT NOT NULL, kind VARCHAR(8) NOT NULL, job_id CHAR(36) NULL, person_id CHAR(36) NOT NULL, note VARCHAR(500) NOT NULL, at DATETIME(3) NOT NULL,
    KEY stock_moves_article (branch_id, article_id, at), KEY stock_moves_job (job_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  // How many a place has: the sum of its moves.
  `CREATE TABLE stock_levels (place_id CHAR(36) NOT NULL, article_id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, quantity INT NOT NULL,
    PRIMARY KEY (place_id, article_id), KEY stock_levels_branch (branch_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  // What each job needs, and has: follows from its record.
  `CREATE TABLE part_needs (job_id CHAR(36) NOT NULL, article_id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, sold INT NOT NULL, picked INT NOT NULL, used INT NOT NULL,
    PRIMARY KEY (job_id, article_id), KEY part_needs_branch (branch_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  // What was ordered.
  `CREATE TABLE purchases (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, article_id CHAR(36) NOT NULL, supplier VARCHAR(80) NOT NULL, quantity INT NOT NULL, arrived INT NOT NULL, cost_cents INT NOT NULL, person_id CHAR(36) NOT NULL, ordered_at DATETIME(3) NOT NULL, due_on DATE NOT NULL,
    KEY purchases_branch (branch_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
]
/** Parts by place, what jobs need of them, and what is on its way. */
export async function up(query: QueryInterface): Promise<void> {
  for (const table of tables) await query.sequelize.query(table)
}
