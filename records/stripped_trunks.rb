# frozen_string_literal: true

module Vestry
  module Records
    # The stripped trunks of an orchard that are still looked after: each read and reckoned once for
    # everyone, and anew when anything of it is written, or its spring is another.
    class StrippedTrunks
      MOST = 300
      WOUNDS = Kept.new(600)
      STANDING = Kept.new(32)

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      # The most pressing first.
      #
      # @return [Array<WoundReading>]
      def all = standing.first.map { |told| told.at_home(@orchard) }

      # The days on which something falls due at any of them.
      #
      # @return [Array<Date>]
      def due_days = standing.last

      private

      NONE = [[].freeze, [].freeze].freeze
      private_constant :NONE

      def standing
        @standing ||= marks.empty? ? NONE : STANDING.fetch([@orchard.cache_key, @today, marks, spring.mark,
                                                            @orchard.rulebook.overrides]) do
          @orchard.hold { reckoned }
        end
      end

      def spring = @orchard.spring(@today)

      def reckoned
        told = wounds.zip(spring.of_trees(wounds.map(&:tree))).map { |wound, of_tree| reading(wound, of_tree) }
        told = told.sort_by.with_index do |each, i|
          [each.settled? ? 2 : (each.repaired? ? 1 : 0), each.triage[:rank], each.triage[:days_left] || 9999,
           -each.share, i]
        end
        due = told.flat_map { |each| each.mending[:tasks].select { |task| %w[open late
          ahead].include?(task[:status]) }.map { |task| task[:due_on] } }.uniq.sort
        [told.freeze, due.freeze].freeze
      end

      # Most are what they were: only its own tree's bark, and its weather once it is repaired, bear on one.
      def reading(wound, of_tree)
        facts = [@today, of_tree.opens_on, @orchard.version, @orchard.rulebook.overrides,
                 (spring.weather.mark if wound.repaired_on)]
        wound.worked_out(:reading, facts) do
          WoundReading.new(wound, @today, spring: spring, told: of_tree).tap(&:reckon).at_home(nil)
        end
      end

      # Those found last first.
      def wounds
        @wounds ||= Still.known(WOUNDS, marks.to_a) { |ids| read(ids) }.sort_by do |wound|
          [-wound.found_on.jd, wound.id]
        end
      end

      def read(ids)
        wounds = Wound.where(id: ids).eager(:tree, :scions, :visits, :tasks_done).all
        Wound.read_margins(wounds)
        WoundVisit.read_fates(wounds.flat_map(&:visits))
        wounds.each { |wound| wound.shape if wound.measured? }
      end

      # What each is known by, with all that was seen of it and done about it.
      #
      # @return [Hash{Integer=>String}]
      def marks = @marks ||= Mark.of_each(:stripped_trunks, @orchard.cache_key, @today) { sets }

      def sets
        latest = Wound.in_sight.where(orchard_id: @orchard.id).where(Sequel[:found_on] <= @today)
          .reverse_order(:found_on).limit(MOST).select(:id)
        own = ->(table) { DB[table].where(Sequel[table][:orchard_id] => @orchard.id,
                                          Sequel[table][:wound_id] => latest) }
        { [:wounds, Sequel[:wounds][:id]] => DB[:wounds].where(Sequel[:wounds][:id] => latest),
          [:trees, Sequel[:wounds][:id]] => DB[:wounds].where(Sequel[:wounds][:id] => latest)
            .join(:trees, id: :tree_id),
          **%i[wound_margins bridge_scions wound_visits tasks_done]
            .to_h { |table| [[table, Sequel[table][:wound_id]], own[table]] },
          [:scion_fates, Sequel[:wound_visits][:wound_id]] => own[:wound_visits]
            .join(:scion_fates, visit_id: Sequel[:wound_visits][:id]) }
      end
    end
  end
end
