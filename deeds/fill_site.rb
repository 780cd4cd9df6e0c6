# frozen_string_literal: true

module Vestry
  module Deeds
    # Records a graft that was set into a bare stretch: what grows from it is a limb, which begins there.
    module FillSite
      # @param values [Hash] columns of a graft, without a place on a limb
      # @param bundle [Records::Bundle, nil] the one its stick was taken from
      # @return [Records::Graft]
      # @raise [Refused] as when a graft on a limb is logged
      # @raise [Records::Missing] where the stretch is filled, taken away, or gone with its limb
      def self.call(site, values, by:, today:, bundle: nil)
        DB.transaction do
          site.tree.locked
          # Whoever cuts that limb off meanwhile is waited for.
          site.limb&.locked
          same = Records::Graft.sent_as(site.orchard_id, values[:client_key]) and next same
          site = site.locked
          raise Records::Missing if site.hidden_at || !site.stands?

          limb = grown(site, limb(site, values), by)
          graft = LogGraft.call(limb, values.merge(cut_mm: nil), by: by, today: today, bundle: bundle)
          Ledger.hide(site, by: by, why: "it carries a graft now")
          graft
        end
      end

      # Where one died there before, its limb goes on.
      def self.grown(site, facts, by)
        why = "a graft set into the bare stretch #{site.tag}"
        before = site.grown_before
        return Ledger.add(Records::Limb, facts, by: by, why: why) unless before

        Ledger.restore(before, by: by, why: why) if before.hidden?
        Ledger.change(before, { **facts.except(:orchard_id, :tree_id, :tag), gone_on: nil,
                                surveyed_on: [before.surveyed_on, facts[:surveyed_on]].min }, by: by, why: why)
      end

      # As thick and as long as the stick that was set.
      def self.limb(site, values)
        book = site.orchard.rulebook
        stick = values[:scion_mm] || book.value("reckoning.wood.pencil")
        { orchard_id: site.orchard_id, tree_id: site.tree_id, parent_id: site.limb_id, tag: site.tag,
          fork_mm: site.at_mm, bearing_deg: site.bearing_deg, rise_deg: book.value("reckoning.cuts.site_rise"),
          girth_mm: (stick.to_f * Math::PI).round(1), length_mm: site.orchard.stick_mm,
          surveyed_on: values[:grafted_on] }
      end
      private_class_method :limb, :grown
    end
  end
end
