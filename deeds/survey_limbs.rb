# frozen_string_literal: true

module Vestry
  module Deeds
    # Adds limbs to a tree, from limb lines or a form: all of those given, or none.
    module SurveyLimbs
      COLUMNS = %i[tag girth_mm wide_mm narrow_mm length_mm fork_mm bearing_deg rise_deg flat_deg bark bark_mm straight
                   damage leader outer_mm outer_at_mm].freeze

      # @param reads [Array<Hash>] each a limb's values, +parent+ by its tag
      # @return [Array<Records::Limb>]
      # @raise [Refused] when a tag is taken or a parent is not there
      def self.call(tree, reads, by:, today:)
        DB.transaction do
          tree.locked
          known = tree.limb_ids_by_tag.transform_keys(&:upcase)
          reads.map do |values|
            parent = values[:parent] && parent_id(tree, values, known)
            check_tag(tree, values[:tag], known)
            BesideLeader.check(tree) if values[:leader]
            row = Ledger.add(Records::Limb, values.slice(*COLUMNS).compact.merge(orchard_id: tree.orchard_id,
              tree_id: tree.id, parent_id: parent, surveyed_on: today, thickness_typed: values[:typed]), by: by)
            known[row.tag.upcase] = row.id
            row
          end
        end
      end

      # One limb, asked about where its measures are not likely.
      #
      # @param sure [Boolean] they are so, and were asked about
      # @raise [Refused]
      def self.one(tree, values, sure:, by:, today:)
        why = impossible(tree, values)
        raise Refused, fork: [why] if why

        asked = sure ? [] : doubts(tree, values)
        raise Refused, thicker_known: ["#{asked.join('; ')}: is that so?"] if asked.any?

        call(tree, [values], by: by, today: today).first
      end

      # Measures that are possible and not likely, in words: to be asked about, and kept when said again.
      #
      # @return [Array<String>]
      def self.doubts(tree, values)
        parent = parent_of(tree, values)
        found = UNLIKELY.filter_map do |name, (range, words)|
          next if values[name].nil? || Core::Plausible.likely?(range, values[name])

          "#{words} #{Core::Measure.say(values[name], tree.orchard.units)}"
        end
        found.concat(parent ? beside_parent(parent, values) : beside_trunk(tree, values))
      end

      UNLIKELY = { girth_mm: ["girth", "a girth of"], length_mm: ["length", "a length of"],
                   fork_mm: ["fork", "leaving at"] }.freeze
      private_constant :UNLIKELY

      def self.beside_parent(parent, values)
        return [] unless diameter(values) > Records::CoreInputs.section(parent)[:diameter_mm]

        ["#{values[:tag]} thicker than #{parent.tag}, which it grows from"]
      end

      # A limb leaves the trunk below the tree's top, and is no thicker than the trunk.
      def self.beside_trunk(tree, values)
        return [] if values[:parent] || values[:leader]

        say = ->(mm) { Core::Measure.say(mm, tree.orchard.units) }
        high = tree.height_mm && values[:fork_mm] && values[:fork_mm] > tree.height_mm
        thick = tree.trunk_girth_mm && diameter(values) * Math::PI > tree.trunk_girth_mm
        [("leaving at #{say[values[:fork_mm]]}, where #{tree.label} is #{say[tree.height_mm]} high" if high),
         ("#{values[:tag]} thicker than the trunk" if thick)].compact
      end

      # Why a limb cannot leave what it grows from there, in words; nil when it can.
      #
      # @param others [Array<Hash>] limbs read before it that are not kept yet
      def self.impossible(tree, values, others = [])
        parent_gone(tree, values) || past_the_end(tree, values) ||
          BesideLeader.wrong(tree, values, tree.standing_limbs.map(&:values) + others)
      end

      def self.parent_gone(tree, values)
        parent = parent_of(tree, values)
        "#{parent.tag} has come off; a branch grows from what stands" if parent&.gone_on
      end

      def self.past_the_end(tree, values)
        parent = parent_of(tree, values)
        return unless parent && values[:fork_mm] && parent.measured?(:length_mm) && values[:fork_mm] > parent.length_mm

        "#{parent.tag} is #{Core::Measure.say(parent.length_mm, tree.orchard.units)} long; a branch leaves it " \
        "before that"
      end

      def self.parent_of(tree, values)
        values[:parent] && tree.limbs.find { |each| each.tag.casecmp?(values[:parent]) }
      end

      def self.diameter(values)
        thickness = values[:girth_mm] ? { girth_mm: values[:girth_mm] } :
          { diameters_mm: values.values_at(:wide_mm, :narrow_mm) }
        Core::Survey::Section.reckon(thickness)[:diameter_mm]
      end

      # @param known [Hash{String=>Integer}] its limbs by tag, those of this survey too
      # @raise [Refused]
      def self.parent_id(tree, values, known)
        gone = parent_gone(tree, values)
        raise Refused, parent: [gone] if gone

        known.fetch(values[:parent].upcase) do
          raise Refused, parent: ["#{values[:parent]} is not a limb of #{tree.label}"]
        end
      end

      # @raise [Refused]
      def self.check_tag(tree, tag, known)
        raise Refused, tag: ["#{tree.label} has a limb #{tag} already"] if known.key?(tag.upcase)
        return unless hidden?(tree, tag)

        raise Refused, tag: ["#{tree.label} had a limb #{tag} that was taken away: bring it back under History, or " \
                             "choose another tag"]
      end

      # However it is written: B and b are one tag.
      def self.hidden?(tree, tag)
        tree.limb_tag_taken?(tag)
      end
      private_class_method :parent_id, :parent_gone, :check_tag, :hidden?, :parent_of, :diameter, :past_the_end,
                           :beside_parent, :beside_trunk
    end
  end
end
