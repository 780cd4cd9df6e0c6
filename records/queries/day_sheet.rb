# frozen_string_literal: true

module Vestry
  module Records
    # A crew's day: its stubs in walking order, each with its place, method, sticks and cautions, and
    # what the day uses up.
    class DaySheet
      Card = Struct.new(:row, :place, :given, :short, :cautions, :colour, :bleeds, keyword_init: true) do
        def limb = row.limb
        def tree = row.limb.tree
      end
      # Where a stub is made and how its sticks stand.
      CutPlace = Struct.new(:at_mm, :height_mm, :stock_mm, :faces, :upright, :stick_count, keyword_init: true)
      Laid = Struct.new(:cards, :trees, :materials, :bundles, keyword_init: true)

      attr_reader :day

      def initialize(orchard, today, day)
        @orchard = orchard
        @today = today
        @day = day
      end

      def cards = laid.cards

      # Trees as they are walked to, each with its cards.
      #
      # @return [Array<Array(Tree, Array<Card>)>]
      def trees = laid.trees

      # The bare stretches of a day's tree that are to be filled: they are set with its stubs.
      #
      # @return [Array<PlanSite>]
      def sites(tree) = waiting_sites.fetch(tree.id, [])

      # What is said of how the day can hurt: of every day, and of what is carried.
      #
      # @return [Array<String>] names of cautions
      def day_cautions
        things = @orchard.rulebook.book("materials").fetch("items")
        ALWAYS_SAID | materials.filter_map { |each| things.dig(each[:item], "caution") }
      end
      ALWAYS_SAID = %w[knife ladder saw].freeze
      private_constant :ALWAYS_SAID

      # @return [Array<Hash>] +item+, +amount+, +unit+
      def materials = laid.materials

      # The bundles to carry, with how many sticks of each.
      def bundles = laid.bundles

      # The first day after this one that the crew's plan puts stubs on, and how many.
      #
      # @return [Array(Date, Integer), nil]
      def following
        later = plan.days.find { |each| each.date > @day && each.stubs.any? }
        later && [later.date, later.stubs.size]
      end

      # Stubs that stay because the day was begun, though by the forecast as it is now they would go elsewhere.
      #
      # @return [Array<Array(StubWindows::StubWindow, Date)>] each with the day it would go to, nil where there is none
      def moved
        begun = @day == @today ? CrewPlan.begun(@orchard, @day) : {}
        return [] if begun.empty?

        free = CrewPlan.new(@orchard, @today, windows: plan.windows, board: plan.board, held: false)
        days = free.days.flat_map { |day| day.stubs.map { |stub| [stub.row.id, day.date] } }.to_h
        stubs.select { |stub| begun.key?(stub.row.id) && days[stub.row.id] != @day }.map do |stub|
          [stub, days[stub.row.id]]
        end
      end

      # By the forecast; nil where none is known.
      def verdict = crew_day&.known ? crew_day.verdict : nil
      def minutes = stubs.sum(&:minutes)

      private

      def plan = @plan ||= CrewPlan.new(@orchard, @today)
      def crew_day = @crew_day ||= plan.day(@day)

      # Those the crew's plan puts on this day; for a day it does not reach, all that are open then.
      def stubs
        @stubs ||= crew_day ? crew_day.stubs : plan.windows.stubs.select do |stub|
          stub.window[:opens_on] <= @day && stub.window[:closes_on] >= @day
        end
      end

      def board = @board ||= MatchBoard.new(@orchard, plan.windows.season, @today, only: stubs.map { |stub| stub.row })
      def tree_ids = stubs.map { |stub| stub.row.limb.tree_id }.uniq

      # The day's trees alone, with all that a drawing shows of them.
      def full = @full ||= DrawnTrees.new(@orchard, tree_ids)

      def laid = @laid ||= lay_out

      def lay_out
        tape = TapeColours.new(@orchard)
        colours = full.trees.transform_values { |tree| tape.of(tree) }
        sticks = board.places.to_h { |place| [place.row.id, place] }
        cards = stubs.map { |stub| card(stub, sticks[stub.row.id], colours.fetch(stub.row.limb.tree_id)) }
          .sort_by { |each| [each.tree.row, each.tree.number, each.limb.tag] }
        trees = cards.group_by { |each| each.tree.id }.map { |id, all| [full.trees.fetch(id), all] }
        Laid.new(cards: cards, trees: trees, materials: used_up(cards), bundles: carried(cards))
      end

      def card(stub, sticks, colours)
        row = stub.row
        outlook = StubAdvice.new(row.limb, planned: row)
        place = CutPlace.new(at_mm: outlook.at_mm, height_mm: outlook.height_mm, stock_mm: outlook.stock_mm,
                          faces: outlook.faces, upright: outlook.upright?, stick_count: outlook.stick_count)
        Card.new(row: row, place: place, given: sticks ? sticks.given : [],
                 short: short(row, sticks), cautions: cautions(row, outlook),
                 colour: colours[row.variety_id], bleeds: stub.told.bleeds?)
      end

      def short(row, sticks)
        # What is missing of leafy wood is cut on the day.
        return 0 if !@orchard.last_days(@today).stored_wood?(row.technique, row.season) ||
                    @orchard.rulebook.evergreen?(row.variety.species)

        sticks ? sticks.short : row.sticks
      end

      def cautions(row, outlook)
        found = []
        found << "saw" if outlook.heavy(nil) || row.limb.damage || outlook.out_of_reach?
        found << "ladder" if outlook.ladder?
        found
      end

      def waiting_sites
        @waiting_sites ||= PlannedSites.waiting(@orchard, plan.windows.season, trees: tree_ids)
          .group_by { |row| row.site.tree_id }
      end

      def used_up(cards)
        return [] if cards.empty?

        stubs = cards.map do |card|
          { method: card.row.technique, stub_mm: card.place.stock_mm, sticks: card.row.sticks,
            species: card.limb.tree.species, school: card.limb.tree.school }
        end
        stubs += waiting_sites.values.flatten.map { |row| site_as_stub(row) }
        Core::Graft::Materials.reckon({ school: @orchard.school, stubs: stubs }, rulebook: @orchard.rulebook)[:items]
      end

      def site_as_stub(row)
        stock = Core::Plan::Methods.drawn_stock(row.technique, row.site.diameter_mm&.to_f, @orchard.rulebook)
        { method: row.technique, stub_mm: stock, sticks: row.sticks || 1, species: row.site.tree.species,
          school: row.site.tree.school }
      end

      def carried(cards)
        cards.flat_map(&:given).group_by { |each| each.stick.bundle }.map { |bundle, all| [bundle, all.size] }
          .sort_by { |bundle, _| bundle.id }
      end
    end
  end
end
