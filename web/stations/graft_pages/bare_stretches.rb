# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      class GraftPages
        # Grafts that are set into a bare stretch of a trunk or a limb.
        module BareStretches
          # What the page shows.
          module Shown
            def fill(site, reading = nil)
              planned = Records::PlannedSites.planned(site)
              reading ||= Contracts::FillSiteForm.blank(fields_of_site(site, planned))
              erb :"graft/site", locals: { site: site, tree: site.tree, planned: planned, reading: reading,
                                           limb: limb_to_be(site), cuts: cuts_of_site(site, reading),
                                           now: "#{site.tree.label} #{site.tag}: one stick in the side of the bare " \
                                                "stretch. No head is cut off." }
            end

            # The method that is drawn, on a stock as thick as it is there, and what is cut for it.
            def cuts_of_site(site, reading)
              book = orchard.rulebook
              technique = book.site_methods.find { |name| name == reading.shown(:technique).to_s } ||
                book.site_methods.first
              stock = Core::Plan::Methods.drawn_stock(technique, site.diameter_mm, book)
              stick = book.value("reckoning.wood.pencil").to_f
              bark = Records::CoreInputs.bark(site.limb || limb_to_be(site), stock)
              { technique: technique, stub_mm: stock, scion_mm: stick,
                figures: Core::Graft::Figures.of(technique, stub_mm: stock, scion_mm: stick, bark_mm: bark,
                                                            rulebook: book) }
            end

            # As it was planned, by the school's practice.
            def fields_of_site(site, planned)
              said = site.tree.method(:practice)
              { grafted_on: today.iso8601, technique: planned&.technique || orchard.rulebook.site_methods.first,
                variety: planned&.variety_id, sticks: planned&.sticks || 1, grafter: actor, wrap: said["wrap"],
                seal: said["seal"], cover: said["cover"],
                stub: site.diameter_mm && length(site.diameter_mm) }.compact
            end

            # The limb that will begin there, for what asks a limb.
            def limb_to_be(site)
              Records::Limb.new(orchard_id: site.orchard_id, tree_id: site.tree_id, tag: site.tag,
                                bearing_deg: site.bearing_deg, rise_deg: 0)
            end
          end

          def self.registered(app)
            app.helpers Shown

            app.get("/sites/:id") { fill(orchard.site!(params["id"])) }

            app.post "/sites/:id" do
              # Sent twice, it is filled already.
              site = Records::Site.of_orchard!(orchard, params["id"])
              reading = read(Contracts::FillSiteForm)
              try(reading, ->(wrong) { fill(site, wrong) }) do |v|
                graft = Deeds::FillSite.call(site, Contracts::FillSiteForm.to_row(reading, orchard), by: actor,
                                             today: today,
                                             bundle: Contracts::LogGraftForm.named(orchard, :bundle, v[:bundle]))
                redirect to("tend", "/grafts/#{graft.id}")
              end
            end
          end
        end
      end
    end
  end
end
