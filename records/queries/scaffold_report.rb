# frozen_string_literal: true

module Vestry
  module Records
    # A worked tree in winter: which grafts have become limbs, how the head is balanced, what each
    # variety has of it, and what to do.
    class ScaffoldReport
      Line = Struct.new(:limb, :graft, :tally, :section_mm2, :closure, :told, keyword_init: true)

      def initialize(tree, today)
        @tree = tree
        @today = today
        @orchard = tree.orchard
        @book = @orchard.rulebook
      end

      attr_reader :tree

      def lines
        @lines ||= @tree.standing_limbs.filter_map do |limb|
          graft = limb.graft
          next unless graft && graft.grafted_on <= @today && graft.fate != "lost"

          graft.associations[:orchard] = @orchard
          line(limb, graft)
        end
      end

      # Lean and heights of what stands: the grafts by their own wood, the old limbs by theirs.
      def balance
        @balance ||= begin
          parts = @tree.standing_limbs.reject(&:parent_id).map do |limb|
            section = section_of(limb)
            { share: section, bearing_deg: limb.leans_to_deg }
          end
          total = parts.sum { |part| part[:share] }
          total.positive? ? Core::Survey::Head.balance(parts.map { |part| part.merge(share: part[:share] / total) },
                                                       rulebook: @book) : nil
        end
      end

      # Varieties side by side, where there is more than one.
      def varieties
        @varieties ||= begin
          parts = lines.select(&:section_mm2).group_by { |line| line.graft.variety }.transform_values do |all|
            all.sum(&:section_mm2)
          end
          parts.size > 1 ? Core::Tally::Balance.reckon({ parts: parts.map { |variety, section| { id: variety.name,
            section_mm2: section } } }, rulebook: @book)[:parts] : []
        end
      end

      # When a wall-trained tree's tiers have their form back: the season in which a tier's graft has
      # grown the length that was cut, at its own pace.
      def tiers
        return [] unless @tree.form == "wall-trained"

        lines.filter_map do |line|
          grown = line.graft.tallies.filter_map { |tally| tally.growth_mm&.to_f }
          wanted = line.limb.length_mm.to_f - (line.graft.cut_mm || 0).to_f
          next if grown.empty? || wanted <= 0

          { limb: line.limb, wanted_mm: wanted, grown_mm: grown.sum, season: @orchard.season.name_of(@today) +
            Core::Tally::Growth.seasons_left(wanted, grown, @book) }
        end
      end

      private

      def line(limb, graft)
        tally = graft.tallies.select { |each| each.tallied_on <= @today }.last
        closure = CoreInputs.closure(graft)
        section = tally&.above_mm && Core::Tally::Scaffold.section(tally.above_mm.to_f, tally.sticks_alive)
        told = Core::Tally::Scaffold
          .of(seasons: @orchard.season.name_of(@today) - @orchard.season.name_of(graft.grafted_on) + 1,
              stub_mm: graft.stub_mm.to_f, closed: closure[:closed_share], sticks: tally&.sticks_alive || graft.sticks,
              angle_deg: tally&.angle_deg && 90 - tally.angle_deg.to_f, section_mm2: section,
              growth_mm: tally&.growth_mm&.to_f, pinched: tally&.waist || false,
              rulebook: @book)
        Line.new(limb: limb, graft: graft, tally: tally, section_mm2: section, closure: closure, told: told)
      end

      # A graft's own wood where it was measured; else what one of its stub and age is expected to have, and nothing
      # where it was lost. Beside one in its side the head stands on.
      def section_of(limb)
        graft = limb.graft
        whole = Math::PI * CoreInputs.section(limb)[:diameter_mm]**2 / 4
        return whole unless graft && stands_for?(graft)
        return 0.0 if graft.fate == "lost"

        lines.find { |line| line.limb.id == limb.id }&.section_mm2 || expected_of(graft)
      end

      # Grown by the end of the last season that has ended.
      def expected_of(graft)
        age = @orchard.season_grown(@today) - @orchard.season.name_of(graft.grafted_on)
        stub = CoreInputs.regrowth(graft)
        Core::Plan::Regrowth.at(age, stub, rulebook: @book)[:share] * Core::Tally::Scaffold.section(stub[:stub_mm], 1)
      end

      # Whether it is all that stands of its limb.
      def stands_for?(graft) = graft.grafted_on <= @today && (graft.head_off?(@today) || graft.filled?)
    end
  end
end
