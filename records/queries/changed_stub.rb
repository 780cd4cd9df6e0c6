# frozen_string_literal: true

module Vestry
  module Records
    # A limb that turned out different on the day: thicker or thinner, torn, crooked, its bark not
    # lifting. What that changes: how much lower to cut, by which method, with how many sticks, of
    # which bundle.
    class ChangedStub
      attr_reader :limb, :planned

      # @param stub_mm [Float, nil] as measured
      # @param torn_mm [Float, nil] how far a tear runs below the cut
      # @param crooked [Boolean] the wood at the cut is crooked or unsound
      # @param slipping [Boolean] whether the bark lifts
      def initialize(limb, today, stub_mm: nil, torn_mm: nil, crooked: false, slipping: true)
        @limb = limb
        @today = today
        @orchard = limb.orchard
        @book = @orchard.rulebook
        @planned = limb.planned
        @measured = stub_mm
        @torn = torn_mm
        @crooked = crooked
        @slipping = slipping
      end

      def asked? = !@measured.nil? || !@torn.nil? || @crooked || !@slipping
      def planned_method = outlook.technique
      def slipping? = @slipping

      # Where it is cut now: below the tear, or clear of crooked wood by a diameter and a half.
      def at_mm
        @at_mm ||= Core::Plan::ChangedCut.at(planned_at, stub_then, torn_mm: @torn, crooked: @crooked, rulebook: @book)
      end

      # The place of the cut, and of the cut that was planned.
      def cut_at_mm = asked? ? at_mm : planned_at
      def planned_at = outlook.at_mm || limb.length_mm.to_f / 2
      def cut = CoreInputs.cut_point(limb, row ? row[:method] : planned_method)

      def lower_mm = (outlook.at_mm || at_mm) - at_mm
      def too_low?
        at_mm < CoreInputs.cut_point(limb, best ? best[:method] : planned_method)[:limits]
          .find { |limit| limit[:name] == "clearance" }[:from_mm].to_f
      end
      def below_browse? = limb.height_at(at_mm) < @orchard.browse_mm

      # How thick it is there: as measured, and as much thicker lower down as the limb tapers.
      def stub_mm
        Core::Plan::ChangedCut.stub(@measured, stub_then, CoreInputs.diameter_at(limb, at_mm))
      end

      # @return [Hash, nil] the best method there, of the methods reckoning's rows
      def best
        ranking.find { |row| !row[:blocked] && row[:score].positive? && @book.end_methods.include?(row[:method]) }
      end
      def ranking = @ranking ||= CoreInputs.methods(limb, stub_mm, slipping: @slipping, today: @today)[:ranking]
      def still?
        best && ranking.any? { |row| row[:method] == planned_method && !row[:blocked] && row[:score].positive? }
      end

      # The method to use: the planned one while it still goes.
      def row = still? ? ranking.find { |each| each[:method] == planned_method } : best

      # By the school's practice; in a cleft, one at each end of the split.
      def sticks
        cleft = row && @book.value("methods.#{row[:method]}.most_sticks") == 2
        CoreInputs.sticks(limb, stub_mm, practice: cleft ? "pair" : nil, method: row&.fetch(:method))
      end

      # A bundle with sticks of the planned variety that suit, best first.
      def bundle
        return nil unless planned&.variety_id && row

        @orchard.wood_store(@today).for_stubs(season: @orchard.season.name_of(@today))
          .select { |each| each.variety_id == planned.variety_id }
          .max_by { |each| each.sticks.select(&:here?).count { |stick| suits?(stick) } }
      end

      def suits?(stick)
        mm = stick.diameter_mm&.to_f || @book.value("reckoning.wood.pencil")
        misfit = Core::Wood::Match.misfit(row[:method], stub_mm, mm, @book)
        misfit && misfit < @book.value("reckoning.changed.suits_within")
      end

      # Other stubs of its variety that would go short if this one takes more sticks.
      def more_sticks = [(sticks[:count] - (planned&.sticks || 1)), 0].max

      # The other stubs of its variety that would go without when this one takes what it now wants.
      #
      # @return [Array<String>] their labels, first to go first
      def others_short
        return [] unless planned&.variety_id && row && more_sticks.positive?

        line = @orchard.wood_supply(planned.season, @today).lines
          .find { |each| each.variety.id == planned.variety_id } or return []
        (dropped(line, sticks[:count]) - dropped(line, planned.sticks || 1) - [planned.id]).map do |id|
          line.stubs.find { |each| each.id == id }.limb.label
        end
      end

      private

      # Those that go without when this stub takes so many sticks before any other.
      def dropped(line, own)
        others = line.stubs.reject { |each| each.id == planned.id }
          .map { |each| WoodSupply.stub(each, @orchard, @today) }
        Core::Plan::Shortage.of(stubs: others, have: [line.for_stubs - own, 0].max, stick_mm: @orchard.stick_mm,
                                rulebook: @book)[:drop]
      end

      def outlook = @outlook ||= StubAdvice.new(limb, planned: planned, today: @today)
      def stub_then = CoreInputs.diameter_at(limb, planned_at)
    end
  end
end
