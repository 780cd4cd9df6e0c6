# frozen_string_literal: true

require "tmpdir"
require "zip"

# Packed orchards that someone made to do harm, or that were harmed on their way.
RSpec.describe "A packed orchard that is not what it says" do
  around { |example| Dir.mktmpdir { |folder| @folder = folder; example.run } }

  ORCHARD_JSON = { "schema" => "vestry-orchard-2", "slug" => "trial-hill", "name" => "Trial Hill", "latitude" => 50.6,
            "longitude" => -2.9, "time_zone" => "Europe/London", "grazing" => "sheep", "wind_from_deg" => 240,
            "reach_mm" => 2400, "units" => "metric", "school" => "waxed-rind", "overrides" => {} }.freeze

  def zip(**files)
    path = File.join(@folder, "#{SecureRandom.hex(4)}.zip")
    Zip::OutputStream.open(path) do |out|
      files.each do |name, content|
        out.put_next_entry(name.to_s)
        content.respond_to?(:call) ? content.call(out) : out << content
      end
    end
    path
  end

  def packed(facts = {}, **files) = zip("orchard.json": JSON.generate(ORCHARD_JSON.merge(facts)), **files)

  def refusal(path)
    before = Vestry::DB[:orchards].count
    Vestry::Records::Archive.read(path)
    nil
  rescue Vestry::Records::Archive::Unreadable => e
    expect(Vestry::DB[:orchards].count).to eq before
    e.message
  end

  it "is read where it is" do
    expect(refusal(packed)).to be_nil
  end

  describe "unpacks to more than it should" do
    before { stub_const("Vestry::Records::Archive::Packed::FREE_BYTES", 1_000_000) }

    it "as facts of an orchard" do
      expect(refusal(zip("orchard.json": ->(out) { 40.times { out << " " * 1_048_576 } })))
        .to match(/orchard.json: is larger than 1 MB/)
    end

    it "as a table, counted as it comes out" do
      spaces = ->(out) { out << "key,row,number,species\n" && 6.times { out << "#{' ' * 65_535}\n" * 16 } }
      expect(refusal(packed({}, "trees.csv": spaces))).to match(/the zip unpacks to more than \d+ MB/)
    end

    it "in one line without an end" do
      expect(refusal(packed({}, "trees.csv": ->(out) { out << "key,row,number,species\n" && out << "x" * 600_000 })))
        .to eq "trees.csv line 2: is longer than 256 kB"
      expect(refusal(packed({}, "trees.csv": "k" * 600_000))).to match(/trees.csv line 1, column/)
    end

    it "while it declares less" do
      path = packed({}, "trees.csv": ->(out) { out << "key,row,number,species\n" &&
                                               6.times { out << "#{' ' * 65_535}\n" * 16 } })
      bytes = File.binread(path)
      # What each entry is said to unpack to, in the list at the end.
      at = -1
      bytes[at + 24, 4] = [100].pack("V") while (at = bytes.index("PK\x01\x02".b, at + 1))
      File.binwrite(path, bytes)
      expect(refusal(path)).to match(/the zip unpacks to more than \d+ MB|trees.csv: cannot be unpacked/)
    end

    it "into more files than an orchard has" do
      path = packed
      bytes = File.binread(path)
      bytes[bytes.rindex("PK\x05\x06".b) + 10, 2] = [65_535].pack("v")
      large = "PK\x06\x06".b + [44, 45, 45, 0, 0, 9_000_000, 9_000_000, 0, 0].pack("Q<vvVVQ<Q<Q<Q<")
      bytes.insert(bytes.rindex("PK\x05\x06".b), large)
      File.binwrite(path, bytes)
      expect(refusal(path)).to eq "the zip has more than 100000 files"
    end
  end

  it "says which of an orchard's facts cannot be, and nothing of it is kept" do
    wrong = { "time_zone" => "Mars/Base", "name" => "x" * 81, "latitude" => 91, "longitude" => "east",
              "grazing" => "dragons", "wind_from_deg" => 400, "reach_mm" => 1e12, "units" => "leagues",
              "school" => "weld", "slug" => "../../etc", "weather_place" => "a\nb", "overrides" => [1] }
    wrong.each do |field, value|
      expect([field, refusal(packed({ field => value }))]).to match [field, /\Aorchard.json: #{field} /]
    end
    expect([7, "", "x" * 101].map { |place| refusal(packed({ "weather_place" => place })) })
      .to all(match(/\Aorchard.json: weather_place /))
    longest = Vestry::Records::Orchard::LONGEST_NAME
    named = ["", " ", "Q", "x" * longest, "x" * (longest + 1)].map do |name|
      Vestry::Records::Archive::OrchardFacts.send(:faults, ORCHARD_JSON.merge("name" => name)).size
    end
    expect(named).to eq [1, 1, 0, 0, 1]
    # A step past each end; the ends themselves are taken.
    { "latitude" => [-90, 90, 0.5], "longitude" => [-180, 180, 0.5], "altitude_m" => [-500, 6000, 1],
      "declination_deg" => [-180, 180, 0.5], "wind_from_deg" => [0, 359, 1] }.each do |field, (least, most, step)|
      faults = [least - step, least, most, most + step].map do |value|
        Vestry::Records::Archive::OrchardFacts.send(:faults, ORCHARD_JSON.merge(field => value)).map(&:first)
      end
      expect([field, faults]).to eq [field, [[field], [], [], [field]]]
    end
    %w[slug name latitude longitude school].each do |field|
      faults = Vestry::Records::Archive::OrchardFacts.send(:faults, ORCHARD_JSON.reject { |name, _| name == field })
      expect([field, faults.map(&:first)]).to eq [field, [field]]
    end
    expect(refusal(packed({ "schema" => "vestry-orchard-1" }))).to match(/is of the layout/)
    expect(refusal(packed({ "colour" => "green" }))).to match(/does not know colour/)
    expect(refusal(zip("orchard.json": "[1]"))).to match(/is not an object/)
    expect(refusal(zip("orchard.json": "[" * 500))).to match(/\Aorchard.json: /)
    expect(refusal(zip("orchard.json": "\xFF\xFE{}".b))).to match(/\Aorchard.json: /)
    expect(refusal(zip("trees.csv": "key\n"))).to eq "there is no orchard.json"
  end

  it "lays nothing over the rulebook that does not belong there" do
    entry = ->(value) { { "value" => value, "why" => "measured", "who" => "Orla", "on" => "2026-01-01" } }
    { "species.apple.take" => [7, "0.9", nil, [0.1]], "practice.wrap" => ["weld"], "no.such.entry" => [1] }
      .each do |path, values|
      values.each { |value| expect(refusal(packed({ "overrides" => { path => entry[value] } })))
        .to match(/\Aorchard.json: overrides #{Regexp.escape(path)}/) }
    end
    expect(refusal(packed({ "overrides" => { "species.apple.take" => { "value" => 0.8, "why" => "x" * 900 } } })))
      .to match(/500 characters/)
    expect(refusal(packed({ "overrides" => { "species.apple.take" => entry[0.8], "practice.wrap" => entry["film"] } })))
      .to be_nil
  end

  it "names line and column of what the database would refuse, as a table brought in alone does" do
    trees = ->(cells) { "key,row,number,species,notes\nA1,A,1,apple,\n#{cells}\n" }
    { "A2,A,99999999,apple," => "column “number”: “99999999” is not from 0 to 1000000",
      "A2,#{'A' * 300},2,apple," => "is not one line of at most 200 characters",
      "A2,\"A\nB\",2,apple," => "is not one line",
      "A2,A\u202E,2,apple," => "none of them hidden", "A2,A,2,apple,#{'n' * 4001}" => "at most 4000 characters",
      "A2,A,2,oak," => "column “species”" }.each do |cells, words|
      expect(refusal(packed({}, "trees.csv": trees[cells]))).to match(/\Atrees.csv line \d, column “/)
        .and include(words)
    end
  end

  it "keeps nobody waiting who begins an orchard meanwhile" do
    go, gone = Queue.new, Queue.new
    reading = Thread.new do
      Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/maunder-hill")) do |share|
        next if @told || share < 0.3

        @told = true
        gone << true
        go.pop
      end
    end
    gone.pop
    made = Vestry::Deeds::BeginOrchard.call({ name: "Trial Hill", latitude: 50.6, longitude: -2.9,
                                              school: "waxed-rind" })
    expect(made.slug).to eq "trial-hill"
    go << true
    expect(reading.value.slug).to eq "maunder-hill"
  end

  it "asks no statement for ever, waits for no lock for long, and leaves no transaction open" do
    shown = %w[lock_timeout statement_timeout idle_in_transaction_session_timeout].map do |name|
      Vestry::DB.get(Sequel.function(:current_setting, name))
    end
    expect(shown).to eq %w[10s 1min 2min]
  end

  it "takes the next address where two begin under one name at the same moment" do
    names = Array.new(6) { Thread.new { Vestry::Deeds::BeginOrchard.call({ name: "Trial Hill", latitude: 50.6,
      longitude: -2.9, school: "waxed-rind" }).slug } }.map(&:value)
    expect(names.uniq.size).to eq 6
  end

  it "points only at rows of its own, and never switches off what holds that" do
    expect(Vestry::DB.get(Sequel.lit("(SELECT rolsuper OR rolreplication OR rolbypassrls FROM pg_roles WHERE " \
                                     "rolname = current_user)"))).to be false
    expect { Vestry::DB.run("SET session_replication_role = replica") }
      .to raise_error(Sequel::DatabaseError, /permission denied/)
  end
end

RSpec.describe Vestry::Deeds::ImportOrchard do
  let(:orla) { person }

  def arrive(bytes = "PK", **facts)
    file = Tempfile.new("zip").tap { |each| each.write(bytes) && each.flush }
    described_class.keep(orla, file, name: "o.zip", **facts)
  end

  around { |example| Dir.mktmpdir { |folder| @var = folder; example.run } }
  before { allow(Vestry::Settings).to receive(:var).and_return(@var) }

  it "takes so much from one person in a day, and so many at once" do
    allow(Vestry::Deeds::Jobs::ImportOrchard).to receive(:enqueue)
    allow(Vestry::Settings).to receive(:most_upload_mb).and_return(1)
    2.times { arrive }
    expect { arrive }.to raise_error(Vestry::Deeds::Refused, /under way already/)
    Vestry::DB[:uploads].update(state: "refused", bytes: 2 * 1024 * 1024)
    expect { arrive }.to raise_error(Vestry::Deeds::Refused, /4 MB a day/)
    expect { arrive("x" * 1_100_000) }.to raise_error(Vestry::Deeds::Refused, /larger than 1 MB/)
  end

  it "gives up what ends the process each time it is tried" do
    allow(Vestry::Deeds::Jobs::ImportOrchard).to receive(:enqueue)
    upload = arrive
    # As if it were killed in the middle, again and again.
    allow(described_class).to receive(:try).and_raise(NoMemoryError)
    3.times { expect { described_class.go_on(upload.refresh) }.to raise_error(NoMemoryError) }
    described_class.go_on(upload.refresh)
    expect(upload.refresh.values.slice(:state, :trouble))
      .to eq(state: "refused", trouble: "it was begun 3 times and never came to its end")
    expect(File.exist?(upload.path)).to be false
  end
end
