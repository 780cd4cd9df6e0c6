# frozen_string_literal: true

# What the specs that need a database stand on: an empty one before each, an orchard to work
# in, and the day it is taken to be.
module World
  TODAY = Date.new(2026, 5, 18)

  def orchard(**facts)
    @orchards = (@orchards || 0) + 1
    Vestry::Records::Orchard.create({ slug: "trial-#{@orchards}", name: "Trial #{@orchards}", latitude: 50.6,
                                      longitude: -2.9, time_zone: "Europe/London",
                                      grazing: "sheep", wind_from_deg: 240, school: "waxed-rind" }.merge(facts))
  end

  def tree(orchard, **facts)
    Vestry::Records::Tree.create({ orchard_id: orchard.id, row: "A", number: orchard.trees_dataset.count + 1,
                                   species: "apple", height_mm: 4000,
                                   trunk_girth_mm: 500 }.merge(facts))
  end

  def limb(tree, tag = "A", **facts)
    Vestry::Records::Limb.create({ orchard_id: tree.orchard_id, tree_id: tree.id, tag: tag, fork_mm: 900,
                                   bearing_deg: 90, rise_deg: 45, girth_mm: 230,
                                   length_mm: 2400, surveyed_on: Date.new(2025, 1, 10) }.merge(facts))
  end

  def variety(orchard, name = "Skylark Russet", **facts)
    Vestry::Records::Variety.create({ orchard_id: orchard.id, name: name, species: "apple" }.merge(facts))
  end

  def graft(limb, **facts)
    kind = limb.orchard.varieties_dataset.first || variety(limb.orchard)
    Vestry::Records::Graft.create({ orchard_id: limb.orchard_id, limb_id: limb.id, grafted_on: Date.new(2026, 4, 21),
                                    technique: "rind", variety_id: kind.id,
                                    stub_mm: 60, cut_mm: 600, sticks: 2, grafter: "Orla Finch", wrap: "stretch-tape",
                                    seal: "wax", cover: "wax-only" }.merge(facts))
  end

  def demo = Slate.demo

  # Until someone waits for a lock; also within a transaction, which would else go on seeing what it saw first.
  def until_waiting
    waiting = Vestry::DB["SELECT count(*) AS n FROM pg_stat_activity WHERE wait_event_type = 'Lock' AND datname = " \
                         "current_database()"]
    Timeout.timeout(20) do
      Vestry::DB.run("SELECT pg_stat_clear_snapshot()") until waiting.get(:n).positive?
    end
  end

  # What the second of two says who act at once, while the first has not ended yet.
  def second_of_two(first, second = first)
    told = nil
    Vestry::DB.transaction do
      first.call
      told = Thread.new do
        second.call
      rescue Vestry::Deeds::Refused => e
        e.errors
      rescue Vestry::Records::Missing => e
        e
      end
      until_waiting
    end
    told.value
  end

  PASSWORD = "a password for trials"

  def person(name = "Orla Finch", **roles)
    account = Vestry::Records::Account.create(name: name, email: "#{name.downcase.tr(' ', '.')}@trial.example",
                                              password_hash: BCrypt::Password.create(PASSWORD,
                                                cost: BCrypt::Engine::MIN_COST).to_s)
    roles.each do |role, orchard|
      Vestry::Records::Membership.create(orchard_id: orchard.id, account_id: account.id, role: role.to_s)
    end
    account
  end
end

ENV["VESTRY_HOST"] ||= "https://orchard.example"
if ENV["VESTRY_DATABASE_URL"]
  ENV["VESTRY_TODAY"] ||= World::TODAY.iso8601
  require_relative "../../boot"
  require "bcrypt"
  require "vips"
  Vestry::Boot.start

  RSpec.configure do |config|
    config.include World, :database
    %w[records deeds drawings outside web browser].each do |room|
      config.define_derived_metadata(file_path: %r{/spec/#{room}/}) { |metadata| metadata[:database] = true }
    end
    config.before(:each, :database) { Slate.wipe }
  end
end
