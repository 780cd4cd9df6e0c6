# frozen_string_literal: true

# An empty database before each example, and the demo without reading its files each time: what
# they came to is kept aside in a schema of its own and copied back.
module Slate
  module_function

  def db = Vestry::DB

  # Every table of rows, those that others point to first.
  def tables
    @tables ||= begin
      pointing = links
      # Revisions only grow, as long as the database stands.
      left = (db.tables - %i[schema_info revisions] - db.tables.grep(/\Aque_/)).map(&:to_s).sort
      order = []
      until left.empty?
        free = left.select { |table| pointing.none? { |from, to| from == table && to != table && left.include?(to) } }
        raise "tables point at each other in a ring: #{left.join(', ')}" if free.empty?

        order.concat(free)
        left -= free
      end
      order
    end
  end

  def links
    @links ||= db.fetch("SELECT DISTINCT conrelid::regclass::text AS a, confrelid::regclass::text AS b FROM " \
                        "pg_constraint WHERE contype = 'f'").map do |row|
      row.values_at(:a, :b)
    end
  end

  def counters
    @counters ||= db.fetch("SELECT table_name AS t, column_name AS c FROM information_schema.columns WHERE " \
                           "table_schema = 'public' AND (is_identity = 'YES' OR column_default LIKE 'nextval%')").all
                    .select { |row| tables.include?(row[:t]) }.map do |row|
                      "pg_get_serial_sequence('#{row[:t]}', '#{row[:c]}')"
                    end
  end

  def wipe
    full = db.fetch(tables.map { |table| "SELECT '#{table}' AS t WHERE EXISTS (SELECT 1 FROM #{table})" }.join(" " \
      "UNION ALL ")).map do |row|
      row[:t]
    end
    db.transaction do
      (tables & full).reverse_each { |table| db.run("DELETE FROM #{table}") }
      db.run("SELECT #{counters.map { |counter| "setval(#{counter}, 1, false)" }.join(', ')}")
    end
  end

  # The demo's orchard, in an empty database.
  def demo
    read = -> { Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/maunder-hill")) }
    return read.call unless Vestry::Records::Orchard.empty?
    return keep(read.call) unless @kept

    db.transaction do
      @kept.each do |table, columns|
        db.run("INSERT INTO #{table} (#{columns}) OVERRIDING SYSTEM VALUE SELECT #{columns} FROM kept.#{table}")
      end
      settings = counters.zip(@counted).map { |counter, (last, called)| "setval(#{counter}, #{last}, #{called})" }
      db.run("SELECT #{settings.join(', ')}")
    end
    Vestry::Records::Orchard.first
  end

  def keep(orchard)
    db.run("DROP SCHEMA IF EXISTS kept CASCADE")
    db.run("CREATE SCHEMA kept")
    # What is due follows from the grafts as they are written.
    @kept = (tables - %w[care_states derived]).reject { |table| db[table.to_sym].empty? }.map do |table|
      db.run("CREATE TABLE kept.#{table} AS TABLE #{table}")
      [table, db[table.to_sym].columns.map { |column| "\"#{column}\"" }.join(", ")]
    end
    @counted = counters.map do |counter|
      db.fetch("SELECT last_value, is_called FROM #{db.get(Sequel.lit(counter))}").first
        .values_at(:last_value, :is_called)
    end
    orchard
  end
end
