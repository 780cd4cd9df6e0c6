# frozen_string_literal: true

# Whatever the server's own zone and language are, moments are UTC and days are ISO.
RSpec.describe "Every connection", :database do
  it "answers, and says so where it does not" do
    expect(Vestry::Records::Connection.up?).to be true
    allow(Vestry::DB).to receive(:get).and_raise(Sequel::DatabaseConnectionError, "gone")
    expect(Vestry::Records::Connection.up?).to be false
  end

  it "keeps UTC and ISO on a server of another zone, so that limits on tries hold" do
    name = Vestry::DB.get(Sequel.function(:current_database))
    Vestry::DB.run("ALTER DATABASE #{Vestry::DB.literal(Sequel.identifier(name))} SET timezone = " \
                   "'Pacific/Auckland'; ALTER DATABASE #{Vestry::DB.literal(Sequel.identifier(name))} SET datestyle " \
                   "= 'SQL, DMY'")
    Sequel.connect(Vestry::Settings.database_url, max_connections: 1, connect_sqls: Vestry::Boot::CONNECT) do |fresh|
      expect(fresh.get(Sequel.lit("current_setting('TimeZone') || ' ' || current_setting('DateStyle')")))
        .to eq "UTC ISO, YMD"
      expect((fresh.get(Sequel.lit("LOCALTIMESTAMP")) - Time.now.utc).abs).to be < 60
    end
    # What was counted outside stands until its time is over, and not for a day or never.
    counts = Vestry::Outside::DoorCounts.new
    expect(Array.new(3) { counts.increment("knocks", 1, expires_in: 60) }).to eq [1, 2, 3]
  ensure
    Vestry::DB.run("ALTER DATABASE #{Vestry::DB.literal(Sequel.identifier(name))} RESET timezone; ALTER " \
                   "DATABASE #{Vestry::DB.literal(Sequel.identifier(name))} RESET datestyle")
  end
end
