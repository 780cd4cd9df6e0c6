# frozen_string_literal: true

require "rack/test"

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
    quietly([*(tables & full).reverse.map { |table| emptied(table) },
             "SELECT #{counters.map { |counter| "setval(#{counter}, 1, false)" }.join(', ')}"])
  end

  # The longest tables, to which no other points.
  LONG = %w[weather_days store_readings].freeze
  private_constant :LONG

  def emptied(table) = LONG.include?(table) ? "TRUNCATE #{table}" : "DELETE FROM #{table}"

  # In a transaction: all tables are emptied, or filled with what stood in them before. Where the server is ours that is
  # done as its owner, without the triggers that hold rows to each other and count revisions.
  #
  # @param statements [Array<String>]
  def quietly(statements)
    with = owner || db
    statements = ["SET LOCAL session_replication_role = replica", *statements] if owner
    with.transaction { with.run(statements.join(";\n")) }
  end

  def owner
    return unless ENV["TEST_OWNER"]

    @owner ||= Sequel.connect("#{ENV.fetch('TEST_OWNER')}/#{db.get(Sequel.lit('current_database()'))}", test: false)
  end

  # The demo's orchard, in an empty database, as it is once somebody has looked at its pages.
  def demo
    read = -> { Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/maunder-hill")) }
    return read.call unless Vestry::Records::Orchard.empty?

    keep(read.call) unless @kept
    filled = { **@kept, **@reckoned }.flat_map do |table, columns|
      [*(emptied(table) if @reckoned.key?(table)),
       "INSERT INTO #{table} (#{columns}) OVERRIDING SYSTEM VALUE SELECT #{columns} FROM kept.#{table}"]
    end
    settings = counters.zip(@counted).map { |counter, (last, called)| "setval(#{counter}, #{last}, #{called})" }
    quietly([*filled, "SELECT #{settings.join(', ')}"])
    pictures!
    Vestry::Records::Orchard.first
  end

  # The demo's pictures lie where they are read now, wherever that is.
  def pictures!
    folder = File.join(Vestry::Settings.var, "photos")
    FileUtils.mkdir_p(folder)
    @pictures.each { |id, bytes| File.binwrite(File.join(folder, id), bytes) unless File.exist?(File.join(folder, id)) }
  end

  # What follows from the rest: it is worked out once, and stands under the revisions that it was worked out at.
  RECKONED = %w[care_states care_tasks care_mark derived revisions].freeze
  LOOKED_AT = %w[today survey survey/trees/1 plan wood wood/list wood/match slip slip/crew graft graft/sheet tend
                 tally].freeze
  private_constant :RECKONED, :LOOKED_AT

  def keep(orchard)
    db.run("DROP SCHEMA IF EXISTS kept CASCADE")
    db.run("CREATE SCHEMA kept")
    @counted = counters.map do |counter|
      db.fetch("SELECT last_value, is_called FROM #{db.get(Sequel.lit(counter))}").first
        .values_at(:last_value, :is_called)
    end
    @pictures = db[:photos].select_map(:image).flat_map { |image| image.to_h.values }
      .to_h { |data| [data["id"], Vestry::Outside::PhotoStore.read(data)] }
    @kept = copies((tables - RECKONED).reject { |table| db[table.to_sym].empty? })
    look(orchard)
    @reckoned = copies(RECKONED)
    wipe
  end

  # A copy of each table aside.
  #
  # @return [Hash{String=>String}] its columns by the table's name
  def copies(names)
    names.to_h do |table|
      db.run("CREATE TABLE kept.#{table} AS TABLE #{table}")
      [table, db[table.to_sym].columns.map { |column| "\"#{column}\"" }.join(", ")]
    end
  end

  # Opens the main pages, as a steward does.
  def look(orchard)
    world = Object.new.extend(World)
    steward = world.person("Somebody", steward: orchard)
    session = Rack::Test::Session.new(Vestry::Web::Stack.build)
    session.get "/sign-in"
    token = session.last_response.body[/name="authenticity_token" value="([^"]+)"/, 1]
    session.post "/sign-in", login: steward.email, password: World::PASSWORD, authenticity_token: token
    LOOKED_AT.each do |path|
      session.get "/o/#{orchard.slug}/#{path}"
      raise "#{path} is #{session.last_response.status}" unless session.last_response.status == 200
    end
  end
end
