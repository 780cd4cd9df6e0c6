# frozen_string_literal: true

module Vestry
  module Deeds
    # Records a graft that was made.
    module LogGraft
      # @param values [Hash] columns of a graft
      # @param today [Date]
      # @param bundle [Records::Bundle, nil] the one its sticks were taken from
      # @return [Records::Graft]
      # @raise [Refused] when the limb was logged on that day already (unless +again+), the day cannot be right,
      #   the stub and the method do not go together
      #   unexplained, or the bundle has not so many sticks left
      def self.call(limb, values, by:, today:, bundle: nil)
        against = SoundGraft.against(limb, values)
        SoundGraft.check(limb, values, against, today)
        # Read while it still waits: once it is grafted no stick is matched to it.
        matched = bundle ? matched_to(limb, bundle, today) : []

        DB.transaction do
          # Two phones that log the same limb wait for each other.
          limb.locked
          again!(limb, values)
          BeginSheet.call(limb.orchard, today) if values[:grafted_on] == today
          graft = Ledger.add(Records::Graft, values.except(:again).merge(orchard_id: limb.orchard_id, limb_id: limb.id,
            against_reason: against && values[:against_reason]), by: by)
          next graft if Records::Stick.used_for?(graft)

          MoveSticks.use(bundle, graft, graft.sticks, by: by, matched: matched) if bundle
          fell(limb, graft, by) if graft.head_cut_mm
          graft
        end
      end

      # The sticks that its card names; where all of a bundle are alike, whichever come first are as good.
      def self.matched_to(limb, bundle, today)
        row = limb.planned
        return [] if row.nil? || Records::Stick.alike?(bundle)

        Records::MatchBoard.new(limb.orchard, row.season, today, only: [row]).places
          .flat_map { |place| place.given.map { |each| each.stick } }
      end
      private_class_method :matched_to

      # A second graft on the same limb and day is more often the same one logged twice: it is asked about.
      #
      # @raise [Refused]
      def self.again!(limb, values)
        return if values[:again]

        made = Records::Graft.made_on(limb, values[:grafted_on])
        return if made.empty? || made.any? { |each| values[:client_key] && each.client_key == values[:client_key] }

        one = made.last
        way = limb.orchard.rulebook.book("methods")[one.technique]["name"].downcase
        raise Refused, again: ["#{limb.label} was logged on that day already: #{one.variety.name}, #{way}, " \
                               "by #{one.grafter}. " \
                               "Is this another graft?"]
      end

      # What grew beyond the cut went with it, and the bare stretches there.
      def self.fell(limb, graft, by)
        [*limb.top_from(graft.head_cut_mm), *Records::Site.on_wood_above(limb, graft.head_cut_mm)].each do |each|
          Ledger.change(each, { gone_on: graft.grafted_on }, by: by, why: "cut off with limb #{limb.tag}")
        end
      end

      # Of a graft that is taken away: what was said to have gone with its limb's top stands again, but for what came
      # off that day by itself, or by another graft.
      def self.stand_again(graft, by)
        return if graft.head_cut_mm.nil?

        went = went_with(graft)
        Records::Site.gone_with(graft.limb, graft.grafted_on).each { |site| stand(site, graft, by) if went[site.at_mm] }
        branches_again(graft.limb.children.select { |each| went[each.fork_mm] }, graft, by)
      end

      def self.branches_again(limbs, graft, by)
        up = limbs.select { |each| each.gone_on == graft.grafted_on && !Records::LimbEvent.taken_off?(each) }
        up.each { |each| stand(each, graft, by) }
        branches_again(up.flat_map(&:children), graft, by) if up.any?
      end

      def self.stand(row, graft, by)
        Ledger.change(row, { gone_on: nil }, by: by, why: "the graft on #{graft.limb.tag} was taken away")
      end

      # Whether a place on its limb is beyond its cut, and beyond no other's that was made that day.
      #
      # @return [Proc] of mm from the fork
      def self.went_with(graft)
        others = Records::Graft.made_on(graft.limb, graft.grafted_on).filter_map(&:head_cut_mm)
        ->(at_mm) { at_mm >= graft.head_cut_mm && others.none? { |cut| at_mm >= cut } }
      end

      private_class_method :again!, :branches_again, :stand, :went_with
    end
  end
end
