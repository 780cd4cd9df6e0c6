# frozen_string_literal: true

require "tmpdir"

RSpec.describe Vestry::Deeds::Purge do
  around { |example| Dir.mktmpdir { |folder| @var = folder; example.run } }
  before { allow(Vestry::Settings).to receive(:var).and_return(@var) }

  let!(:here) { orchard }
  let!(:orla) { person("Orla Finch", steward: here) }
  let(:day) { 86_400 }

  def letter(orchard, days)
    Vestry::DB[:letters].insert(orchard_id: orchard&.id, address: orla.email, subject: "#{days} days old", body: "x",
                                sent_at: Time.now.utc - days * 86_400)
  end
  def left = Vestry::DB[:letters].order(:id).select_map(:subject)

  it "throws away letters for one person alone sooner than those about an orchard" do
    [[nil, 1], [nil, 3], [here, 3], [here, 61]].each { |place, days| letter(place, days) }
    described_class.letters
    expect(left).to eq ["1 days old", "3 days old"]
    expect(Vestry::DB[:letters].exclude(orchard_id: nil).count).to eq 1
  end

  it "throws away files that were never brought in, and the text of old ones; what they wrote stays" do
    bring = lambda do |days, number, go|
      text = "row,number,species\nA,#{number},apple\n"
      import = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", text, by: "Orla", today: World::TODAY)
      if go
        Vestry::Deeds::ImportFile.begin(import)
        Vestry::Deeds::ImportFile.write(import.reload, today: World::TODAY)
      end
      Vestry::DB[:imports].where(id: import.id).update(created_at: Time.now.utc - days * day)
      import
    end
    bring.call(31, 1, false)
    young = bring.call(29, 2, false)
    old, newer = bring.call(181, 3, true), bring.call(179, 4, true)
    described_class.imports
    expect(Vestry::Records::Import.order(:id).select_map(:id)).to eq [young, old, newer].map(&:id)
    expect(here.trees_dataset.select_order_map(:number)).to eq [3, 4]
    expect { Vestry::Deeds::ImportFile.undo(old.reload, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /too long ago/)
    Vestry::Deeds::ImportFile.undo(newer.reload, by: "Orla")
  end

  it "throws away what was worked out for days that are over" do
    now = Time.utc(2026, 5, 18, 12)
    { 8 => "2026-05-10", 7 => "2026-05-11", 0 => "2026-05-18" }.each_value do |on|
      Vestry::DB[:derived].insert(orchard_id: here.id, what: "trial", day: on, revision: "x", result: "1")
    end
    described_class.derived(now)
    expect(Vestry::DB[:derived].where(what: "trial").select_order_map(:day).map(&:iso8601))
      .to eq %w[2026-05-11 2026-05-18]
  end

  it "throws away background work that is over, and later what was given up" do
    rows = { 6 => :finished_at, 8 => :finished_at, 59 => :expired_at, 60 => :expired_at }
    rows.each do |days, column|
      Vestry::DB[:que_jobs].insert(job_class: "Old#{days}", job_schema_version: 2, column => Time.now.utc - days * day)
    end
    described_class.jobs
    expect(Vestry::DB[:que_jobs].select_order_map(:job_class)).to eq %w[Old59 Old6]
  ensure
    Vestry::DB[:que_jobs].delete
  end

  it "forgets counts of knocks a day after their time, and not before" do
    at = Time.now.utc
    [["old", -90_000], ["new", -80_000], ["ahead", 60]].each do |key, seconds|
      Vestry::DB[:door_counts].insert(key: key, value: "1", expires_at: at + seconds)
    end
    described_class.requests(at)
    expect(Vestry::DB[:door_counts].order(:key).select_map(:key)).to eq %w[ahead new]
  end

  it "forgets tries, devices, sessions and the door's log after their time" do
    old = Time.now.utc - 500 * day
    Vestry::Records::KnownDevice.meet(orla.id, nil, "a phone")
    Vestry::Records::DoorLog.note("signed-in", account_id: orla.id)
    Vestry::Records::SignInTries.take("x@y.example", "192.0.2.1")
    tables = { known_devices: :seen_at, door_log: :at, sign_in_tries: :last_at }
    described_class.sign_in
    expect(tables.keys.map { |table| Vestry::DB[table].count }).to eq [1, 1, 2]
    tables.each { |table, column| Vestry::DB[table].update(column => old) }
    described_class.sign_in
    expect(tables.keys.map { |table| Vestry::DB[table].count }).to eq [0, 0, 0]
  end

  it "keeps each kind as long as it says, and not a minute longer" do
    now = Time.now.utc
    Vestry::DB[:door_counts].delete
    minute = 60
    kinds = {
      keys: [day, ->(at) { Vestry::DB[:account_password_reset_keys].insert(id: orla.id, key: "x", deadline: at) },
             -> { Vestry::DB[:account_password_reset_keys] }],
      invites: [30 * day, lambda { |at|
                            Vestry::DB[:invites].insert(orchard_id: here.id, role: "viewer", invited_by: "Orla",
                                                        token_digest: SecureRandom.hex, expires_at: at)
                          }, -> { Vestry::DB[:invites] }],
      sessions: [90 * day, lambda { |at|
                             Vestry::DB[:account_active_session_keys].insert(account_id: orla.id, last_use: at,
                                                                             session_id: SecureRandom.hex)
                           }, -> { Vestry::DB[:account_active_session_keys] }]
    }
    kinds.each do |name, (age, add, rows)|
      rows.call.delete
      add.call(now - age + minute)
      described_class.sign_in(now)
      expect([name, rows.call.count]).to eq [name, 1]
      rows.call.delete
      add.call(now - age - minute)
      described_class.sign_in(now)
      expect([name, rows.call.count]).to eq [name, 0]
    end
  end

  it "throws away zips that nobody wants any more, a day after they came" do
    folder = File.join(@var, "uploads")
    FileUtils.mkdir_p(folder)
    zip = lambda do |name, age|
      path = File.join(folder, "#{name}.zip")
      File.write(path, "zip")
      File.utime(Time.now - age, Time.now - age, path)
    end
    wanted = Vestry::Records::Upload.create(account_id: orla.id, token: SecureRandom.uuid, state: "tried",
                                             file_name: "o.zip", bytes: 3)
    zip["left", day + 60]
    zip["young", day - 60]
    zip[wanted.token, 3 * day]
    described_class.files
    expect(Dir.children(folder)).to contain_exactly("young.zip", "#{wanted.token}.zip")
  end

  describe "of pictures" do
    def keep
      Vestry::Deeds::KeepPhoto.call(tree(here), StringIO.new(Vips::Image.black(20, 20).write_to_buffer(".png")),
                                    by: "Orla Finch", today: World::TODAY)
    end
    def files = Dir[File.join(@var, "photos", "*")]
    def age(path) = File.utime(Time.now - 2 * day, Time.now - 2 * day, path)

    it "throws away those that no photo points at, once they are a day old" do
      keep
      orphan, fresh = %w[orphan fresh].map do |name|
        File.join(@var, "photos", name).tap { |path| File.binwrite(path, "x") }
      end
      (files - [fresh]).each { |path| age(path) }
      described_class.photos
      expect(files.size).to eq 3
      expect([File.exist?(orphan), File.exist?(fresh)]).to eq [false, true]
    end

    it "throws a few away where they are a tenth or more, and many where they are less than that" do
      keep = lambda do |orphans, kept|
        ids = Array.new(orphans + kept) { |i| "p#{i}" }
        allow(Vestry::Outside::PhotoStore).to receive(:kept).and_return(ids.to_h { |id| [id, Time.now.utc - 9 * day] })
        allow(Vestry::Records::Photo).to receive(:picture_ids).and_return(Set.new(ids.last(kept)))
        gone = []
        allow(Vestry::Outside::PhotoStore).to receive(:drop) { |id| gone << id }
        described_class.photos
        gone.size
      rescue RuntimeError
        :kept
      end
      expect([keep[10, 0], keep[11, 0], keep[11, 98], keep[11, 99], keep[20, 180], keep[21, 180]])
        .to eq [10, :kept, :kept, 11, 20, :kept]
    end

    it "throws none away where nearly all of them seem to be nobody's: the folder is another installation's" do
      20.times do |i|
        File.join(FileUtils.mkdir_p(File.join(@var, "photos")).first, "p#{i}")
          .then { |path| File.binwrite(path, "x") && age(path) }
      end
      expect { described_class.photos }.to raise_error(/20 of 20 pictures have no photo/)
      expect(files.size).to eq 20
    end
  end

  it "has its turn once a day, each part for itself" do
    allow(described_class).to receive(:letters).and_raise("broken")
    expect(described_class).to receive(:photos)
    Vestry::Outside::FailureLog.writing_to(StringIO.new) { Vestry::Deeds::Jobs::Purges.new({}).run }
  end
end
