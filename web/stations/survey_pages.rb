# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The tree as it stands.
      class SurveyPages < Base
        # Of text that marks in a picture come to.
        MOST_MARKS = 20_000
        private_constant :MOST_MARKS

        helpers do
          def show(tree, limb, reading: nil, **forms)
            reading ||= Contracts::MeasureLimbForm.blank(limb ? current_values(limb) : {})
            line = Headline.new(orchard, today)
            head = Records::CoreInputs.head(tree) unless limb
            erb :"survey/tree", locals: { tree: tree, limb: limb, reading: reading, head: head,
                                          bare: head && Records::TreeQueries.bare_tree(orchard, row: tree.row),
                                          now: limb ? line.limb(limb) : line.tree(tree),
                                          **forms_of(tree, forms),
                                            typed: forms[:typed], reads: forms[:reads], asked: forms[:asked] }
          end

          # The forms of a tree and of a limb: as they were filled in, else with what stands.
          def forms_of(tree, forms)
            blank = ->(form, **standing) { form.blank(standing) }
            { happened: forms[:happened] || blank[Contracts::LimbEventForm, happened_on: today.iso8601],
              one: forms[:one] || blank[Contracts::NewLimbForm], site: forms[:site] || blank[Contracts::NewSiteForm],
              facts: forms[:facts] ||
                Contracts::TreeFactsForm.blank(Contracts::TreeFactsForm.current_values(tree, method(:length))) }
          end

          def leader_or_limb
            [["false", "a limb"], ["true", "the leader: the trunk itself above that height"]]
          end

          def current_values(limb)
            kept = ->(name) { length(limb[name]) if limb.measured?(name) }
            { girth: thickness_shown(limb),
               length: as_typed(limb.length_typed, limb[:length_mm]) || kept[:length_mm], fork: kept[:fork_mm],
               bearing: limb[:bearing_deg]&.to_i, rise: limb[:rise_deg]&.to_i, flat: limb.flat_deg&.to_i,
               leader: limb.leader,
               bark_thickness: (length(limb.bark_mm) if limb.bark_mm), bark: limb.bark, straight: limb.straight,
               damage: limb.damage,
               version: limb.version, **along(limb) }
          end

          def thickness_shown(limb)
            as_typed(limb.thickness_typed, limb.girth_mm) ||
              (limb.girth_mm ? length(limb.girth_mm) : limb.thickness_typed ||
               "#{length(limb.wide_mm)} × #{length(limb.narrow_mm)}")
          end

          # What was measured further out on a limb.
          def along(limb)
            { outer: limb.outer_mm, outer_at: limb.outer_at_mm, unsound_from: limb.unsound_mm[0],
              unsound_to: limb.unsound_mm[1] }.transform_values { |mm| mm && length(mm) }
          end

          # What was typed, where it reads as what is kept: a bare number of another unit does not.
          def as_typed(text, mm)
            text if text && mm && Core::Near.equal?(Core::Measure.parse(text, units: orchard.units).mm, mm.to_f)
          rescue Core::BadInput
            nil
          end

          # The tree as it would be with what has been typed.
          def with_lines(tree, reads)
            made = {}
            reads.select(&:ok?).each_with_index do |read, index|
              values = read.values
              parent = values[:parent] && (made[values[:parent].upcase] ||
                                           tree.limbs.find { |each| each.tag.casecmp?(values[:parent]) })
              limb = Records::Limb.new({ orchard_id: orchard.id, tree_id: tree.id,
                                         parent_id: parent&.id }.merge(values.except(:parent, :typed)))
              limb.values[:id] = -1 - index
              limb.associations.merge!(parent: parent, tree: tree, orchard: orchard, grafts: [])
              made[read.tag.upcase] = limb
            end
            drawn(tree) + made.values.map do |limb|
              Drawings::DrawnLimb.new(limb: limb, role: nil)
            end
          end

          # Keeps what can be kept of some limb lines.
          #
          # @return [Array] those that could not be
          def keep_lines(tree, lines)
            raise Deeds::Refused, lines: ["Type at least one limb, a line each."] if lines.reads.empty?

            sure = params["sure"] == "yes"
            rest = lines.rest(sure: sure)
            limbs = lines.keep(by: actor, today: today, sure: sure)
            notice "#{counted(limbs.size, 'limb')} kept on #{tree.label}." if limbs.any?
            rest
          end

          # The day on which a photo was taken, where that is said and can be.
          def taken_on = read_day(params["taken_on"])&.then { |day| day if day.between?(today - 400, today) } || today

          # What a script marked, as it sends it.
          def json_object(text)
            read = JSON.parse(text.to_s[0, MOST_MARKS], symbolize_names: true)
            read if read.is_a?(Hash)
          rescue JSON::ParserError
            nil
          end

          def measures(text)
            return [] if text.to_s.empty?

            read = JSON.parse(text.to_s[0, MOST_MARKS], symbolize_names: true)
            return read if read.is_a?(Array) && read.size <= 5 && read.all?(Hash)

            raise Deeds::Refused, marks: ["The marks cannot be read."]
          rescue JSON::ParserError
            raise Deeds::Refused, marks: ["The marks cannot be read."]
          end

          def show_measure(measure)
            photo = measure.photo
            erb :"survey/measure", locals: { measure: measure, photo: photo, tree: photo.tree,
                                             now: Headline.new(orchard, today).measured(measure) }
          end

          def limb_by_hand(tree, reading = nil)
            known = tree.standing_limbs
            reading ||= Contracts::NewLimbForm.blank(tag: Core::Survey::NextTag.after(tree.limb_ids_by_tag.keys))
            erb :"survey/limb_by_hand", locals: { tree: tree, known: known, reading: reading,
                                                  now: Headline.new(orchard, today).tree(tree) }
          end

          def lines_of(tree) = Deeds::LimbLines.new(tree, params["lines"], units: typed_units)
        end

        get "/" do
          view = OrchardView.new(orchard, query, today)
          asked = { (view.filters.empty? ? :trees : :found) => view.count }
          line = Headline.new(orchard, today)
          erb :"survey/orchard", locals: { view: view, now: line.survey(**asked), act: line.act }
        end

        # The trees in a window of the orchard, for the drawing as it is moved.
        get "/window" do
          erb :"survey/window", layout: false, locals: { view: OrchardView.new(orchard, query, today) }
        end

        get("/trees/new") { erb :"survey/new_trees", locals: { reading: Contracts::NewTreesForm.blank(form: "bush") } }

        post "/trees" do
          reading = read(Contracts::NewTreesForm)
          try(reading, ->(wrong) { erb :"survey/new_trees", locals: { reading: wrong } }) do |v|
            once do
              trees = Deeds::AddTrees.call(orchard, Contracts::NewTreesForm.to_row(v, orchard), by: actor)
              notice trees.size == 1 ? "#{trees.first.label} stands in the record." :
                "#{trees.first.label} to #{trees.last.label} stand in the record."
              trees.size == 1 ? to("survey", "/trees/#{trees.first.id}") : to("survey")
            end
          end
        end

        get "/trees/:id" do
          tree = orchard.tree!(params["id"])
          show(tree, tree.limbs.find { |limb| limb.id.to_s == params["limb"] })
        end

        # What is known of the tree, corrected.
        post "/trees/:id" do
          tree = orchard.tree!(params["id"])
          reading = read(Contracts::TreeFactsForm, Contracts::TreeFactsForm.current_values(tree, method(:length)))
          try(reading, ->(wrong) { show(tree, nil, facts: wrong) }) do |v|
            Deeds::CorrectTree.call(tree, Contracts::TreeFactsForm.to_row(reading, orchard), by: actor,
                                    version: v[:version])
            notice "What is known of #{tree.refresh.label} is kept."
            redirect to("survey", "/trees/#{tree.id}")
          end
        end

        # Limb lines: read as they are typed, kept when asked.
        post "/trees/:id/lines" do
          tree = orchard.tree!(params["id"])
          lines = lines_of(tree)
          if params["what"] == "echo"
            next erb(:"survey/reads", layout: false, locals: { tree: tree, reads: lines.reads,
                stands: with_lines(tree, lines.reads), asked: nil })
          end
          next show(tree, nil, typed: params["lines"], reads: lines.reads) if params["what"] == "read"

          attempt(->(e) { with_words(e) { show(tree, nil, typed: params["lines"], reads: lines.reads) } }) do
            rest = keep_lines(tree, lines)
            next redirect(to("survey", "/trees/#{tree.id}")) if rest.empty? && @said

            # What could not be kept stays in the box, with the word that stopped it chosen.
            status 422
            tree = orchard.tree!(tree.id)
            left = Deeds::LimbLines.new(tree, rest.map(&:text).join("\n"), units: typed_units)
            show(tree, nil, typed: rest.map(&:text).join("\n"), reads: left.judged, asked: left.doubts)
          end
        end

        # One limb by form.
        post "/trees/:id/limbs" do
          tree = orchard.tree!(params["id"])
          by_hand = params["then"] == "next"
          reading = read(Contracts::NewLimbForm)
          again = ->(wrong) { by_hand ? limb_by_hand(tree, wrong) : show(tree, nil, one: wrong) }
          try(reading, again) do |v|
            once do
              limb = Deeds::SurveyLimbs.one(tree, Contracts::NewLimbForm.to_row(reading), sure: v[:thicker_known],
                                            by: actor, today: today)
              notice "#{limb.label} is kept." if by_hand
              by_hand ? to("survey", "/trees/#{tree.id}/limb") : limb_address(tree, limb.id)
            end
          end
        end

        # What happened to a limb: it breaks, dies back, is headed, tied down, or grows again.
        post "/limbs/:id/events" do
          limb = orchard.limb!(params["id"])
          reading = read(Contracts::LimbEventForm)
          try(reading, ->(wrong) { show(limb.tree, orchard.limb!(limb.id), happened: wrong) }) do |v|
            event = Deeds::RecordLimbEvent.call(limb, Contracts::LimbEventForm.to_row(v), by: actor, today: today)
            notice "#{limb.label} #{Records::LimbEvent::KINDS.fetch(event.kind)}: the tree is drawn as it stands now."
            redirect params["from"] == "cuts" ? to("plan", "/cuts") : limb_address(limb.tree, limb.id)
          end
        end

        post "/events/:id/back" do
          event = Records::LimbEvent.of_orchard!(orchard, params["id"])
          limb = event.limb
          attempt(->(e) { redirect_with("#{e.words.capitalize}.", limb_address(limb.tree, limb.id)) }) do
            Deeds::TakeBackEvent.call(event, by: actor)
            notice "Taken back: #{limb.label} stands as it did before."
            redirect limb_address(limb.tree, limb.id)
          end
        end

        # A limb measured by hand, with the phone held along it.
        get("/trees/:id/limb") { limb_by_hand(orchard.tree!(params["id"])) }

        post "/trees/:id/sites" do
          tree = orchard.tree!(params["id"])
          reading = read(Contracts::NewSiteForm)
          try(reading, ->(wrong) { show(tree, nil, site: wrong) }) do |v|
            once do
              Deeds::MarkSite.call(tree, Contracts::NewSiteForm.to_row(v), by: actor)
              to("survey", "/trees/#{tree.id}")
            end
          end
        end

        # All photos of a tree or a limb, a year at a time.
        get "/trees/:id/photos" do
          tree = orchard.tree!(params["id"])
          limb = tree.limbs.find { |each| each.id == query[:limb] }
          photos = Records::TreePhotos.new(tree, limb: limb)
          year = photos.years.key?(query[:year]) ? query[:year] : photos.years.keys.first
          erb :"survey/photos_of_year", locals: { tree: tree, limb: limb, photos: photos, year: year }
        end

        post "/trees/:id/photos" do
          tree = orchard.tree!(params["id"])
          limb = params["limb"].to_s.empty? ? nil : orchard.limb!(params["limb"])
          attempt(->(e) { with_words(e) { show(tree, limb) } }) do
            Deeds::KeepPhoto.call(tree, sent("photo").first, limb: limb,
                                  visit: Integer(params["visit"].to_s, 10, exception: false),
                                  caption: params["caption"].to_s[0, 200], by: actor, today: taken_on,
                                  client_key: params["client_key"], measures: measures(params["measures"]))
            redirect limb ? limb_address(tree, limb.id) : to("survey", "/trees/#{tree.id}")
          end
        end

        # Where a tree stands, as a picture of it says.
        post "/trees/:id/place" do
          tree = orchard.tree!(params["id"])
          reading = read(Contracts::TreePlaceForm)
          try(reading, ->(no) { with_words(Deeds::Refused.new(no.errors)) { show(tree, nil) } }) do |v|
            Deeds::CorrectTree.call(tree, v.slice(:latitude, :longitude), by: actor, version: v[:version])
            notice "#{tree.label} stands where the picture was taken."
            redirect to("survey", "/trees/#{tree.id}")
          end
        end

        # The card that lies in a picture, for its size.
        get "/card.pdf" do
          content_type "application/pdf"
          attachment "measuring-card.pdf", :inline
          Sheets::MeasuringCard.new(orchard.rulebook.value("reckoning.pictured.card").values_at("width", "height"),
                                    size: paper).pdf
        end

        # A photo that was measured in, with its marks.
        get("/measures/:id") { show_measure(orchard.measure!(params["id"])) }

        post "/measures/:id" do
          measure = orchard.measure!(params["id"])
          attempt(->(e) { with_words(e) { show_measure(measure) } }) do
            marks = json_object(params["marks"]) or raise Deeds::Refused, marks: ["The marks cannot be read."]
            Deeds::MeasurePicture.correct(measure, marks, by: actor,
                                         version: Integer(params["version"].to_s, 10, exception: false))
            redirect to("survey", "/measures/#{measure.id}")
          end
        end

        # What was marked, laid flat and to one scale.
        get "/measures/:id/flat" do
          measure = orchard.measure!(params["id"])
          headers "cache-control" => "private, no-cache"
          etag "#{measure.id}-#{measure.version}-#{measure.photo.image['large']['id']}"
          content_type "image/jpeg"
          side = (Float(params["mm"].to_s, exception: false) || 100).clamp(10, 1000)
          Outside::FlatPicture.of(measure.photo, Core::Survey::FlatView.of(measure.asked, side_mm: side))
        end

        get "/photos/:id/:size" do
          photo = orchard.photo!(params["id"])
          picture = photo.picture!(params["size"])
          # Kept by a browser, and asked for again each time: whoever may no longer see it does not.
          headers "cache-control" => "private, no-cache"
          etag picture["id"].to_s
          content_type "image/jpeg"
          Outside::PhotoStore.read(picture)
        end

        post "/limbs/:id" do
          limb = orchard.limb!(params["id"])
          reading = read(Contracts::MeasureLimbForm, current_values(limb))
          try(reading, ->(wrong) { show(limb.tree, limb, reading: wrong) }) do |v|
            Deeds::MeasureLimb.call(limb, Contracts::MeasureLimbForm.to_row(reading), by: actor, version: v[:version])
            redirect limb_address(limb.tree, limb.id)
          end
        end
      end
    end
  end
end
