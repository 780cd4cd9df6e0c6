# frozen_string_literal: true

module Vestry
  module Deeds
    # Decides that a bare stretch takes a graft in its side, or that it no longer does.
    module DecideSite
      # @param values [Hash] +role+ (work, later or none), +season+, +technique+, +variety+ (id)
      # @return [Records::PlanSite, nil]
      # @raise [Refused]
      def self.call(site, values, by:, season:, version: nil)
        DB.transaction do
          tree = site.tree.locked
          plan = tree.plan || Ledger.add(Records::Plan, { orchard_id: site.orchard_id, tree_id: tree.id }, by: by)
          row = Records::PlanSite.of(plan, site)
          next row && (row.hidden? || Ledger.hide(row, by: by)) && nil if values[:role] == "none"

          columns = { **timing(values, row, season), technique: technique!(site, values[:technique]),
                      variety_id: values[:variety] && DecideLimb.variety!(site.orchard, values[:variety], tree.species)
                        .id }
          Ledger.restore(row, by: by) if row&.hidden?
          row ? Ledger.change(row, columns, by: by, version: version) :
            Ledger.add(Records::PlanSite, columns.merge(orchard_id: site.orchard_id, plan_id: plan.id,
                                                        site_id: site.id), by: by)
        end
      end

      # One for later waits for a season after this one.
      def self.timing(values, row, season)
        wanted = values[:season] || (values[:role] == "later" ? season + 1 : season)
        { role: Records::Deferred.kept(row, values[:role], wanted, season), season: wanted }
      end

      # Methods that set a stick in the side of standing wood.
      def self.methods_for_sites = Core::Rulebook.shipped.site_methods

      def self.technique!(site, technique)
        technique ||= methods_for_sites.first
        unless methods_for_sites.include?(technique)
          raise Refused, technique: ["is one that works a side: #{methods_for_sites.join(' or ')}"]
        end

        low, high = site.orchard.rulebook.value("methods.#{technique}.stock_works")
        return technique unless site.diameter_mm && !Core::Near.within?(site.diameter_mm.to_f, low, high)

        say = ->(mm) { Core::Measure.say(mm, site.orchard.units) }
        raise Refused, technique: ["works from #{say[low]} to #{say[high]}; it is #{say[site.diameter_mm]} thick there"]
      end
      private_class_method :timing, :technique!
    end
  end
end
