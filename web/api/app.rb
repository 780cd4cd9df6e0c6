# frozen_string_literal: true

require "json"
require "sinatra/base"

module Vestry
  module Web
    module Api
      # The interface for programs: JSON over HTTP, a person's key, and the same roles and deeds as the
      # pages.
      class App < Sinatra::Base
        # What a program did wrong, as problem+json.
        class Problem < StandardError
          attr_reader :status, :errors

          attr_reader :headers

          def initialize(status, title, errors = nil, headers = {})
            @status = status
            @errors = errors
            @headers = headers
            super(title)
          end
        end

        set :show_exceptions, false
        set :raise_errors, false
        set :dump_errors, false
        set :protection, false
        set :sessions, false
        set :static, false
        set :host_authorization, { permitted_hosts: [] }

        helpers do
          def key
            @key ||= Records::ApiToken.good(request.env["HTTP_AUTHORIZATION"].to_s[/\ABearer (\S+)\z/, 1]) ||
                     raise(Problem.new(401, "a key is wanted: Authorization: Bearer …", nil,
                                       "www-authenticate" => 'Bearer realm="Vestry"'))
          end

          def account = key.account

          def orchard
            @orchard ||= Records::Orchard.called(params["slug"]).then do |found|
              raise Problem.new(404, "you belong to no such orchard") unless found && key.for?(found) &&
              account.role_in(found)
              if found.second_factor && !account.second_factor?
                raise Problem.new(403, "this orchard asks for a second step at sign-in; add one on your page first")
              end

              found
            end
          end

          def needs(role)
            Records::Membership.enough?(account.role_in(orchard), role) ||
              raise(Problem.new(403, "a #{role} may; you are a #{account.role_in(orchard)}"))
          end
          def today = Outside::Clock.today(orchard.time_zone)

          # @param most [Integer] so many bytes of it are read
          def body_json(most = Write::MOST_BYTES)
            words = request.content_length.to_i > most ? nil : request.body&.read(most + 1).to_s.dup
              .force_encoding("UTF-8")
            raise Problem.new(413, "at most #{most / 1024 / 1024} MB") if words.nil? || words.bytesize > most
            raise Problem.new(400, "the body is not UTF-8 text") unless words.valid_encoding?

            read = words.strip.empty? ? {} : JSON.parse(words)
            read.is_a?(Hash) ? read : raise(Problem.new(400, "a JSON object is wanted"))
          rescue JSON::ParserError
            raise Problem.new(400, "the body is not JSON")
          end

          def answer(value, status: 200)
            status(status)
            content_type :json
            JSON.generate(value)
          end

          def problem(status, title, errors = nil, headers = {})
            status(status)
            headers(headers)
            content_type "application/problem+json"
            JSON.generate({ type: "about:blank", title: title, status: status, errors: errors }.compact)
          end

          # What is found, under a tag: one that is asked for again and is the same is not sent again.
          def find(asked)
            words, wrong = asked.read(params)
            raise Problem.new(422, "some fields cannot be taken", wrong) if wrong.any?

            tagged(orchard.with_current(reading: true) { asked.finds.call(orchard, today, words) })
          end

          def tagged(value)
            text = answer(value)
            etag(Digest::SHA256.hexdigest(text)[0, 32])
            text
          end

          # A write with If-Match is carried out while its row is the one that was read, and otherwise not.
          def while_matching(write)
            said = request.env["HTTP_IF_MATCH"].to_s
            table = Records::Archive::Tables.named(write.path[%r{\A(\w+)/\{id\}}, 1])
            return yield if said.empty? || said == "*" || table.nil?

            Records::Archive::Rows.holding(orchard, table, params["id"]) do |row|
              tag = %("#{Digest::SHA256.hexdigest(JSON.generate(row))[0, 32]}")
              raise Problem.new(412, "it was changed since", nil, "etag" => tag) unless said.split(/,\s*/).include?(tag)

              yield
            end
          end

          # A write that comes again under the same Idempotency-Key is answered as it was the first time.
          def once(write)
            needs(write.role)
            raise Problem.new(403, "this key reads and does not write") unless key.writes?

            key = request.env["HTTP_IDEMPOTENCY_KEY"].to_s
            return carry_out(write) if key.empty? || write.verb != :post

            unless Records::RepeatedRequest.key?(key)
              raise Problem.new(400,
                                "an Idempotency-Key has up to #{Records::RepeatedRequest::LONGEST} printable " \
                                "characters")
            end

            sent = body_json(write.most_bytes)
            answered = Records::RepeatedRequest.answer(account, key, [request.path_info, sent]) do
              [carry_out(write, sent), response.status]
            end
            raise Problem.new(422, "this Idempotency-Key came with another request before") unless answered

            status(answered.last)
            content_type :json
            answered.first
          end

          # A body through its form, and the deed with what it says.
          def carry_out(write, sent = body_json(write.most_bytes))
            body = sent.merge(write.verb == :delete ? request.GET : {})
            refuse_strange(body.keys - write.fields, write.fields)
            reading = write.form.new(units: orchard.units).read(as_typed(body))
            raise Problem.new(422, "some fields cannot be taken", reading.errors) unless reading.ok?

            made = as_one_deed(write) { write.deed.call(sender(reading), reading.values) }
            answer(told(write, made), status: write.made? ? 201 : 200)
          rescue Deeds::Refused => e
            raise Problem.new(e.is_a?(Deeds::Conflict) ? 409 : 422, "it was refused", reading.with(e.errors).errors)
          end

          # What a write does is one deed in the history, which can be undone whole.
          def as_one_deed(write, &deed)
            while_matching(write) do
              Records::HistoryLog.as_one(SecureRandom.uuid) { orchard.with_current(&deed) }
            end
          end

          def sender(reading)
            Sender.new(orchard: orchard, member: Records::Membership.between(account, orchard),
                       by: account.name_in(orchard), today: today, id: params["id"], reading: reading)
          end

          def refuse_strange(names, fields)
            return if names.empty?

            known = fields.empty? ? "no fields" : fields.join(", ")
            raise Problem.new(422, "some fields cannot be taken",
                              names.to_h { |name| [name[0, 80], ["is not one of #{known}"]] })
          end

          # What JSON says, as a form would have sent it.
          def as_typed(value)
            case value
            when Hash then value.transform_values { |each| as_typed(each) }
            when Array then value.map { |each| as_typed(each) }
            when Numeric, true, false then value.to_s
            else value
            end
          end

          # What a deed gave back, as it is shown: its rows, or its own words.
          def told(write, made)
            return made.is_a?(Hash) ? made : { done: true } if write.table.nil? || made.nil?

            table = Records::Archive::Tables.named(write.table)
            rows = Array(made).map { |row| Records::Archive::Rows.one(orchard, table, row.id) }
            write.many? ? { items: rows, next: nil } : rows.first
          end
        end

        # Without a key, every address answers alike.
        before { key unless request.path_info == "/openapi.json" }

        get("/openapi.json") { answer(OpenApi.document) }

        get("/reckon") { answer({ reckonings: Core::RECKONINGS.keys }) }

        post "/reckon/:name" do
          raise Problem.new(404, "no reckoning #{params['name'][0, 60]}") unless Core::RECKONINGS.key?(params["name"])

          answer(Core.reckoning(params["name"]).reckon(body_json))
        end

        get("/orchards") do
          answer({ items: account.orchards.select { |each| key.for?(each) }.map { |each| { slug: each.slug,
            name: each.name, role: account.role_in(each) } }, next: nil })
        end
        get("/orchards/:slug") do
          answer(orchard.values.slice(:slug, :name, :latitude, :longitude, :time_zone, :grazing, :wind_from_deg, :units,
                                      :school).merge(role: account.role_in(orchard)))
        end

        Writes.all.each { |write| public_send(write.verb, write.route) { once(write) } }

        # How far the planning of whole rows is, and what came of each tree.
        get "/orchards/:slug/patterns/:id" do
          pattern = orchard.pattern!(params["id"])
          answer({ state: pattern.state, done: pattern.done, trees: pattern.tree_ids.size, outcomes: pattern.outcomes })
        end

        get "/orchards/:slug/photos/:id/:size" do
          content_type "image/jpeg"
          Outside::PhotoStore.read(orchard.photo!(params["id"]).picture!(params["size"]))
        end

        Lookups.all.each { |asked| get(asked.route) { find(asked) } }

        get "/orchards/:slug/:table" do
          table = Records::Archive::Tables.named(params["table"]) or raise Records::Missing
          tagged(Records::Archive::Rows.page(orchard, table, after: whole("after"), limit: whole("limit")))
        end

        get "/orchards/:slug/:table/:id" do
          table = Records::Archive::Tables.named(params["table"]) or raise Records::Missing
          tagged(Records::Archive::Rows.one(orchard, table, params["id"]))
        end

        helpers do
          def whole(name)
            return nil unless params.key?(name)

            number = Integer(params[name].to_s, 10, exception: false)
            number&.between?(0, 2_147_483_647) ? number : raise(Problem.new(422, "some fields cannot be taken",
              name => ["a whole number from 0 up"]))
          end
        end

        error(*Stack::Steady::LOST) { halt(*Stack::Steady.answer(env)) }
        error(Problem) { |e| problem(e.status, e.message, e.errors, e.headers) }
        error(Records::Missing) { problem(404, "there is no such thing in this orchard") }
        error(Outside::PhotoStore::Away) { problem(503, "photos cannot be reached just now") }
        error(Sequel::ConstraintViolation) do |e|
          column, words = Records::Archive::Limits.words(e)
          unless column
            Outside::FailureLog.record(e, method: request.request_method,
                                          path: Stack::RequestLog.shape(request.path_info))
          end
          problem(422, "it cannot be kept", column && { column => [words] })
        end
        error(Core::BadInput) { |e| problem(422, "some fields cannot be taken", { e.field => [e.allowed] }) }
        not_found do
          allowed = self.class.routes
            .select { |_, patterns| patterns.any? { |pattern, *| pattern.match(request.path_info) } }.keys
          if allowed.empty? || allowed.include?(request.request_method)
            next problem(404, "nothing is kept at this address")
          end

          problem(405, "#{request.request_method} is not for this " \
                       "address; #{allowed.join(', ')} #{allowed.one? ? 'is' : 'are'}", nil,
                       "allow" => allowed.join(", "))
        end
        error { |e| halt(*Stack::Steady.broken(env, e)) }
      end
    end
  end
end
