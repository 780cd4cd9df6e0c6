# frozen_string_literal: true

require "open3"

# Every migration, from nothing to the last, back by one and on again, in a database of its own.
RSpec.describe "Migrations" do
  def url = ENV.fetch("VESTRY_DATABASE_URL").sub(%r{/([^/]+)\z}, '/\1_steps')
  def on_server(&block) = Sequel.connect(ENV.fetch("VESTRY_DATABASE_URL").sub(%r{/[^/]+\z}, "/postgres"), &block)
  def drop = on_server { |db| db.run("DROP DATABASE IF EXISTS #{url[%r{[^/]+\z}]} WITH (FORCE)") }

  around do |example|
    drop
    on_server { |db| db.run("CREATE DATABASE #{url[%r{[^/]+\z}]} ENCODING 'UTF8' TEMPLATE template0") }
    example.run
  ensure
    drop
    # The queue's own tables are made over the connection that migrates.
    Que.connection = Vestry::DB
  end

  # What a database is made of, as far as rows could notice.
  def shape(db)
    %w[columns table_constraints].to_h do |about|
      [about, db.fetch("SELECT * FROM information_schema.#{about} WHERE table_schema = " \
                       "'public'").map { |row| row.slice(:table_name, :column_name, :data_type, :is_nullable,
                           :column_default, :constraint_type).values }.sort_by(&:inspect)]
    end
        .merge("indexes" => db.fetch("SELECT indexdef FROM pg_indexes WHERE schemaname = 'public' ORDER BY " \
                                     "1").select_map(:indexdef),
               "triggers" => db.fetch("SELECT tgname FROM pg_trigger WHERE NOT tgisinternal " \
                                      "ORDER BY 1").select_map(:tgname))
  end

  it "go up from nothing, and each goes down and up again to the same" do
    Sequel.extension(:migration)
    folder = File.join(Vestry::ROOT, "records/migrations")
    Sequel.connect(url, after_connect: ->(connection) { connection.exec("SET client_min_messages = warning") }) do |db|
      Sequel::Migrator.run(db, folder)
      last = db[:schema_info].get(:version)
      first = shape(db)
      last.downto(1) do |version|
        Sequel::Migrator.run(db, folder, target: version - 1) && Sequel::Migrator.run(db, folder, target: version) &&
        Sequel::Migrator.run(db, folder, target: version - 1)
      end
      Sequel::Migrator.run(db, folder)
      again = shape(db)
      first.each_key do |about|
        expect([about, again[about] - first[about], first[about] - again[about]]).to eq [about, [], []]
      end
    end
  end
end
