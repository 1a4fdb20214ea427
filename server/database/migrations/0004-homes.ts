import type { QueryInterface } from 'sequelize'

/** What somebody said of two records with one address: one home, or two. The smaller id stands first. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE home_links (first_site_id CHAR(36) NOT NULL, second_site_id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, said VARCHAR(8) NOT NULL, person_id CHAR(36) NOT NULL, at DATETIME(3) NOT NULL,
      PRIMARY KEY (first_site_id, second_site_id), KEY home_links_second (second_site_id),
      CONSTRAINT home_links_first_fk FOREIGN KEY (first_site_id) REFERENCES sites (id), CONSTRAINT home_links_second_fk FOREIGN KEY (second_site_id) REFERENCES sites (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
