# frozen_string_literal: true

# What a page writes a program can write too, or it is named here why not. A page that learns to write something makes
# this fail until it is said.
RSpec.describe "What pages write, and what programs write" do
  # Of each station: the page's address, and what a program sends instead; a sentence where there is nothing.
  for_people = "it is settled between people"
  as_it_is_seen = "it is set by the eye, on a drawing"
  in_bulk = "a program writes each by itself"
  let(:said) do
    {
      "survey" => { "/trees" => "post trees", "/trees/:id" => "put trees/{id}",
                    "/trees/:id/lines" => "post trees/{id}/lines", "/trees/:id/limbs" => "post trees/{id}/limbs",
                    "/limbs/:id/events" => "post limbs/{id}/events", "/events/:id/back" => "delete limb_events/{id}",
                    "/trees/:id/sites" => "post trees/{id}/sites", "/trees/:id/photos" => "post trees/{id}/photos",
                    "/trees/:id/place" => "put trees/{id}", "/measures/:id" => as_it_is_seen,
                    "/limbs/:id" => "put limbs/{id}" },
      "plan" => { "/missed" => "post missed", "/missed/back" => "delete missed", "/pattern" => "post patterns",
                  "/patterns/:id/back" => "post patterns/{id}/back", "/allotments" => for_people,
                  "/allotments/:id/accept" => for_people, "/allotments/:id/back" => for_people,
                  "/allotments/:id/cancel" => for_people, "/limbs/:id" => "post limbs/{id}/plan",
                  "/limbs/:id/headed" => "post limbs/{id}/headed", "/limbs/:id/role" => "post limbs/{id}/plan",
                  "/limbs/:id/season" => "post limbs/{id}/plan", "/limbs/:id/take-over" => "post limbs/{id}/take-over",
                  "/sites/:id" => "post sites/{id}/plan", "/trees/:id/pace" => "post trees/{id}/pace",
                  "/trees/:id/purpose" => "put trees/{id}/plan", "/trees/:id/versions" => "post trees/{id}/versions",
                  "/trees/:id/versions/again" => "post trees/{id}/versions/again" },
      "wood" => { "/bundles" => "post bundles", "/bundles/:id/away" => "post bundles/{id}/away",
                  "/bundles/:id/check" => "post bundles/{id}/checks", "/bundles/:id/date" => "put bundles/{id}/cut-on",
                  "/bundles/:id/measure" => "post bundles/{id}/diameters",
                  "/bundles/:id/move" => "post bundles/{id}/stays",
                  "/bundles/:id/receive" => "post bundles/{id}/received",
                  "/bundles/:id/split" => "post bundles/{id}/splits",
                  "/bundles/:id/shoots" => "put bundles/{id}/shoots",
                  "/bundles/:id/variety" => "put bundles/{id}/variety", "/match/free" => "delete sticks/{id}/lock",
                  "/match/keep" => "post plan_limbs/{id}/sticks", "/nursery" => "post varieties/{id}/orders",
                  "/nursery/received" => "put wood_promises/{id}/received", "/stores" => "post stores",
                  "/stores/:id" => "post stores/{id}/readings", "/stores/:id/called" => "put stores/{id}" },
      "slip" => { "/trees/:id/seen" => "post trees/{id}/seen", "/crew/day" => "post crew_days",
                  "/crew/fix" => "post plan_limbs/{id}/day", "/weather" => "post weather",
                  "/weather/ask" => "it sends days of weather itself" },
      "graft" => { "/limbs/:id" => "post limbs/{id}/grafts", "/limbs/:id/undone" => "post limbs/{id}/undone",
                   "/sites/:id" => "post sites/{id}/grafts", "/grafts/:id" => "put grafts/{id}",
                   "/limbs/:id/hand" => for_people },
      "tend" => { "/grafts/:id/visits" => "post grafts/{id}/visits", "/grafts/:id/tasks" => "post grafts/{id}/tasks",
                  "/tasks" => in_bulk, "/hands" => in_bulk, "/grafts/:id/loss" => "put grafts/{id}/loss",
                  "/grafts/:id/regraft" => "post grafts/{id}/regraft", "/grafts/:id/meaning" => "it writes nothing",
                  "/limbs/:id/off" => "post limbs/{id}/events", "/limbs/:id/shortened" => "post limbs/{id}/shortened",
                  "/calendar" => for_people, "/calendar/revoke" => for_people, "/letters" => for_people },
      "tally" => { "/grafts/:id" => "post grafts/{id}/tallies" },
      "repair" => { "/" => "post wounds", "/:id" => "put wounds/{id}", "/:id/course" => "put wounds/{id}/course",
                    "/:id/cover" => "post wounds/{id}/covered", "/:id/log" => "post wounds/{id}/repairs",
                    "/:id/places" => "put wounds/{id}/places", "/:id/tasks" => "post wounds/{id}/tasks",
                    "/:id/visits" => "post wounds/{id}/visits" }
    }
  end

  def routes(station)
    Vestry::Web::OrchardRouter::STATIONS.fetch(station).routes.fetch("POST", []).map { |pattern, *| pattern.to_s }
  end

  it "is the same, or it is said why not" do
    expect(said.to_h { |station, _| [station, routes(station).sort] })
      .to eq(said.transform_values { |pages| pages.keys.sort })
  end

  it "names what a program can write, by the role of the page" do
    writes = Vestry::Web::Api::Writes.all.to_h { |write| ["#{write.verb} #{write.path}", write.role] }
    roles = Vestry::Web::Roles
    pairs = said.flat_map do |station, pages|
      pages.filter_map do |path, sent|
        next unless sent.match?(/\A(post|put|delete) /)

        [[station, path, sent, writes[sent]],
         [station, path, sent, roles.needed("POST", station, "/o/here/#{station}#{path.sub(':id', '1')}")]]
      end
    end
    expect(pairs.map(&:first)).to eq pairs.map(&:last)
  end
end
