# frozen_string_literal: true

require "tempfile"

module Vestry
  module Web
    module Admin
      # Files on their way in.
      class FilePages < Base
        helpers do
          def show(errors: {})
            erb :"files/list", locals: { imports: Records::Import.latest(orchard), errors: errors,
                                         exports: Records::Export.of(orchard) }
          end

          # What a steward decides is not decided by a file of someone else's.
          def may_bring(kind)
            if Roles::STEWARD_FILES.include?(kind) && !may?("steward")
              raise Deeds::Refused, file: ["Only a steward brings in #{kind.tr('_', ' ')}."]
            end
          end

          # A file however long: written on the disk, sent from there, and gone with the answer.
          def beside_memory
            file = Tempfile.create("out", binmode: true)
            File.unlink(file.path)
            yield file
            headers "content-length" => file.pos.to_s
            file.tap(&:rewind)
          end

          def import! = orchard.import!(params["id"])

          def fate_of(import, line)
            return "is added" unless import.kind == "station"

            had, usual = line["left_out"]
            had ? "is left out: #{had} of #{usual} readings" : "is kept"
          end

          # What a line of a table from elsewhere was understood to say, as it is said here.
          def understood(import, line)
            said = line["understood"].to_h
            Records::LayoutFields.of(import.kind).select { |name, _| said.key?(name) }.map do |name, field|
              name == "notes" ? "“#{said[name]}”" : "#{field.words} #{figure(field.measure, said[name])}"
            end.join(" · ")
          end

          # A figure as it is kept, in this orchard's own units; what could not be read, as it stands there.
          def figure(measure, said)
            return "“#{said}”" if measure && Core::Values.number(said).nil?

            case measure
            when "length_mm" then length(said.to_f)
            when "length_m" then say_away(said.to_f)
            when "rain" then rain_depth(said.to_f, 1)
            when "warmth" then warmth(said.to_f)
            when "wind" then wind_speed(said.to_f)
            else said
            end
          end

          # How a table from elsewhere is to be read, with what is still to be told.
          def match_page(import, facts = import.layout.to_h, wrong: [])
            table = Records::ForeignTable.new(import.content)
            layout = Records::TableLayout.of(import, facts)
            erb :"files/match", locals: { import: import, table: table, layout: layout, wrong: wrong,
                                          open: layout.open_questions(table) }
          end
        end

        get("/") { show }

        post "/" do
          attempt(->(e) { show(errors: e.errors) }) do
            bytes, name = sent_table
            kind = params["kind"] == "table" ? params["table"].to_s : params["kind"].to_s
            may_bring(kind)
            import = Deeds::ImportFile.preview(orchard, kind, name, bytes, by: actor, today: today)
            redirect to("files", "/#{import.id}")
          end
        end

        # Everything out, in one zip.
        post "/orchard" do
          password_again(to("files"))
          once do
            door_log("export")
            Deeds::PackOrchard.begin(orchard, by: actor)
            to("files", "#out")
          end
        end

        get "/orchard/:id.zip" do
          password_again(request.fullpath)
          path = Deeds::PackOrchard.path(Records::Export.whole!(orchard, params["id"]).id)
          raise Records::Missing unless File.file?(path)

          send_file path, type: "application/zip", disposition: "attachment", filename: "#{orchard.slug}.zip"
        end

        # How far the packing is.
        get "/orchard/:id/progress" do
          export = Records::Export.of!(orchard, params["id"])
          content_type :json
          JSON.generate(done: export.done, all: export.rows, over: export.over?,
                        said: through(export.done, export.rows))
        end

        # One table, for a spreadsheet.
        get "/tables/:name.csv" do
          table = Records::Archive::Tables.named(params["name"]) or raise Records::Missing
          content_type "text/csv", charset: "utf-8"
          attachment "#{orchard.slug}-#{table.name}.csv"
          beside_memory { |io| Records::Archive.table(orchard, table.name, io, safe: true) }
        end

        get "/trees.geojson" do
          content_type "application/geo+json"
          attachment "#{orchard.slug}-trees.geojson"
          Records::TreePlaces.geojson(orchard)
        end

        get "/trees.gpx" do
          content_type "application/gpx+xml"
          attachment "#{orchard.slug}-trees.gpx"
          Records::TreePlaces.gpx(orchard)
        end

        post "/:id/undo" do
          import = import!
          attempt(->(e) { redirect_with(e.words, to("files", "/#{import.id}")) }) do
            may_bring(import.kind)
            Deeds::ImportFile.undo(import, by: actor)
            notice "#{import.file_name} was taken back."
            redirect to("files", "/#{import.id}")
          end
        end

        get "/:id" do
          import = import!
          next match_page(import) if import.state == "matching"

          erb :"files/preview", locals: { import: import }
        end

        # How a table from elsewhere is read, as it was told.
        post "/:id/layout" do
          import = import!
          facts = Contracts::TableMatch.read(params)
          attempt(->(e) { match_page(import.refresh, facts, wrong: e.errors[:layout] || e.words) }) do
            may_bring(import.kind)
            Deeds::MatchTable.call(import, facts, today: today)
            redirect to("files", "/#{import.id}")
          end
        end

        post "/:id/match" do
          import = import!
          Deeds::MatchTable.again(import)
          redirect to("files", "/#{import.id}")
        end

        # Where it stands, for the page to ask.
        get "/:id/progress" do
          content_type :json
          import = import!
          JSON.generate(state: import.state, done: import.done, lines: import.lines)
        end

        post "/:id/begin" do
          import = import!
          attempt(->(e) { redirect_with(e.words, to("files", "/#{import.id}")) }) do
            may_bring(import.kind)
            Deeds::ImportFile.begin(import)
            redirect to("files", "/#{import.id}")
          end
        end
      end
    end
  end
end
