# frozen_string_literal: true

# The addresses of the demo's orchard, with rows behind them.
module EveryRoute
  # Every route inside an orchard, as [method, address] with real numbers in it.
  #
  # @return [Array<Array(String, String, String)>]
  def every_route(here)
    graft = here.grafts_dataset.first(grafted_on: Date.new(2025, 4, 21))
    photo = Vestry::Records::Photo.first || Vestry::Deeds::KeepPhoto
      .call(graft.limb.tree, StringIO.new(Vips::Image.black(8, 8).write_to_buffer(".png")), by: "Orla",
            today: World::TODAY)
    marks = { what: "stub", kind: "length", points: [[1, 1], [3, 3]], ruler: [[0, 0], [9, 0]], ruler_mm: 10 }
    measure = Vestry::Records::PictureMeasure.first || Vestry::Deeds::MeasurePicture
      .add(photo, Vestry::Deeds::MeasurePicture.figures(marks), by: "Orla")
    file = Vestry::Records::Import.first || Vestry::Deeds::ImportFile
      .preview(here, "trees", "t.csv", "row,number,species\nZ,1,apple\n", by: "Orla", today: World::TODAY)
    site = Vestry::Records::Site.first || Vestry::Records::Site
      .create(orchard_id: here.id, tree_id: graft.limb.tree_id, tag: "S1", at_mm: 900, bearing_deg: 90)
    pattern = Vestry::Records::Pattern.first || Vestry::Records::Pattern
      .create(orchard_id: here.id, wish: Sequel.pg_jsonb({}), tree_ids: Sequel.pg_array([], :integer), by: "Orla",
              state: "done")
    event = Vestry::Records::LimbEvent.first || Vestry::Records::LimbEvent
      .create(orchard_id: here.id, limb_id: graft.limb_id, kind: "tied-down", happened_on: World::TODAY, rise_deg: 20,
              by: "Orla")
    allotted = Vestry::Records::AllotmentRun.first || Vestry::Records::AllotmentRun
      .asked(here, { "seasons" => 2, "more" => {} }, by: "Orla", client_key: nil)
    packed = Vestry::DB[:exports].get(:id) || Vestry::Deeds::PackOrchard.begin(here, by: "Orla")
    bundle = Vestry::Records::Bundle.first || raise("the demo has no wood")
    ids = { "bundles" => bundle.id, "stores" => Vestry::Records::Store.first.id, "varieties" => here.varieties.first.id,
            "sites" => site.id, "patterns" => pattern.id, "photos" => photo.id, "files" => file.id,
            "trees" => graft.limb.tree_id, "limbs" => graft.limb_id, "grafts" => graft.id,
            "repair" => Vestry::Records::Wound.first.id, "wounds" => Vestry::Records::Wound.first.id,
            "orchard" => packed, "events" => event.id, "allotments" => allotted.id, "invites" => 1,
            "members" => 999_999, "tries" => 999_999, "cuts" => 999_999,
            "measures" => measure.id, "deeds" => "0f8fad5b-d9cb-469f-a165-70867728950e" }
    Vestry::Web::OrchardRouter::STATIONS.flat_map do |name, station|
      %w[GET POST].flat_map do |method|
        (station.routes[method] || []).map do |route, *|
          path = route.to_s.sub("/:kind/:id", "/limbs/:id")
          path = path.sub(":size", "small").sub(%r{\A/:id}) { "/#{ids.fetch(name)}" }
          path = path.sub(%r{\A/:name\z}, "/to-wood")
          path = path.gsub(%r{/(\w+)/:id}) { "/#{$1}/#{ids.fetch($1)}" }.sub(":row", "A")
            .sub(":path", "species.apple.take").sub(":page", "care").sub(":token", "x")
              .sub("tables/:name", "tables/trees").sub("orchard/:id", "orchard/#{packed}")
                .sub(%r{/orchard/\d+\.zip\z}, "/orchard/#{packed}.zip")
          [method, "/o/maunder-hill/#{name}#{path == '/' ? '' : path}", name]
        end
      end
    end.uniq
  end
end
