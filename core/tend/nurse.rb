# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # A nurse limb of a tree that was worked: kept, shortened, or taken off, by the state of what it nurses.
      module Nurse
        extend Reckoning

        STATES = %w[alive waiting dead waived].freeze
        ACTIONS = %w[keep shorten off].freeze

        contract "nurse", "Whether a nurse limb is kept, shortened or taken off, and what holds it" do
          number :nurse_share, least: 0, most: 1, help: "of the head before the work"
          number :kept_other, least: 0, most: 1, help: "share of the head on other old limbs that stay"
          list :stubs, help: "of the tree, worked or to be worked" do
            number :share, least: 0, most: 1, help: "of the head before the work"
            number :stub_mm, unit: "mm", above: 0
            list :shoots_mm, item(:number, unit: "mm", least: 0), default: [].freeze, help: "feet of its living shoots"
            name :state, STATES
          end
          number :seasons_since, least: 0, help: "the latest of them was worked"
          flag :worked_later, default: false, help: "the nurse is itself to be worked"
          number :least_seasons, least: 0, default: 1.0, help: "that it stands, by the school's practice"
          flag :shortened, default: false, help: "it was, in the growth that was last or since"
          flag :growing, default: true, help: "shoots lengthen: a cut then holds it back, and one at rest drives it"
          number :closed, least: 0, most: 1, default: 1.0,
                          help: "share that the least closed stub has grown over, where the practice waits for it"
        end

        # What stays without it: the other old limbs, and of each living stub's share as much as the section of its
        # shoots is of the stub's. It comes off when a season is over, every stub lives or was given up, that is enough
        # leaf, and it is not to be worked itself; it is shortened once a stub lives, while shoots grow, once a season.
        #
        # @return [Hash] +action+ (keep, shorten, off), +kept_after+ (share of the head) and +reasons+: what holds it
        def self.call(nurse_share:, kept_other:, stubs:, seasons_since:, worked_later: false, least_seasons: 1.0,
                      closed: 1.0, shortened: false, growing: true, rulebook: Rulebook.shipped)
          after = kept_other + stubs.select { |stub| stub[:state] == "alive" }.sum(0.0) { |stub| regained(stub) }
          alive = stubs.any? { |stub| stub[:state] == "alive" }
          held = holds(after, stubs, seasons_since, worked_later, least_seasons, closed, rulebook)
          held << { code: "nurse_no_stub" } unless alive
          action = held.empty? ? "off" : (alive && growing && !shortened ? "shorten" : "keep")
          held.unshift({ code: "nurse_shortened" }) if shortened && action == "keep"
          { action: action, kept_after: after, reasons: held + [{ code: "nurse_#{action}", share: nurse_share }] }
        end

        # Whether a cut counts for the growth that runs or was last: one made at rest is of the growth that follows it.
        #
        # @param headed_on [Date, nil]
        # @param season [Season]
        def self.shortened?(headed_on, today, season, rulebook)
          !headed_on.nil? &&
            season.name_of(headed_on) >= season.name_counted(today, rulebook.value("care.calendar.waking"))
        end

        # Whether a cut holds it back: from full leaf until growth has stopped.
        def self.growing?(today, season, rulebook)
          from, to = %w[spring autumn].map do |day|
            season.next_day(rulebook.value("care.calendar.#{day}"), season.year_start(today))
          end
          (from...to).cover?(today)
        end

        def self.regained(stub)
          stub[:share] * [1.0, stub[:shoots_mm].sum { |mm| mm**2 } / stub[:stub_mm]**2].min
        end

        # What keeps it where it is, one reason each.
        def self.holds(after, stubs, seasons_since, worked_later, least_seasons, closed, rulebook)
          enough = rulebook.value("reckoning.nurse.kept_after")
          states = stubs.map { |stub| stub[:state] }.tally
          [({ code: "nurse_worked_later" } if worked_later),
           ({ code: "nurse_waiting", stubs: states["waiting"] } if states["waiting"]),
           ({ code: "nurse_dead", stubs: states["dead"] } if states["dead"]),
           ({ code: "nurse_young", seasons: least_seasons } unless Near.at_least?(seasons_since,
                                                                                  [least_seasons, 1].max)),
           ({ code: "nurse_open", closed: closed } unless Near.at_least?(closed, 1)),
           ({ code: "nurse_little_leaf", kept: after, wanted: enough } unless Near.at_least?(after, enough))].compact
        end
        private_class_method :regained, :holds
      end
    end
  end
end
