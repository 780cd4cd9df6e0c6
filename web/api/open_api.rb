# frozen_string_literal: true

require "dry/schema"
Dry::Schema.load_extensions(:json_schema)

module Vestry
  module Web
    module Api
      # The description of the interface, made from the tables' columns, the reckonings' contracts and
      # the forms of what may be written.
      module OpenApi
        module_function

        def document
          words = "An orchard's records and the craft's reckonings, under the same roles as the pages."
          bearer = { "token" => { "type" => "http", "scheme" => "bearer" } }
          { "openapi" => "3.1.0", "info" => { "title" => "Vestry", "version" => VERSION, "description" => words },
            "servers" => [{ "url" => "/api" }], "security" => [{ "token" => [] }], "paths" => paths,
            "components" => { "securitySchemes" => bearer, "schemas" => schemas } }
        end

        def paths
          found = { "/openapi.json" => { "get" => operation("This description", {}, secure: false) },
                    "/orchards" => { "get" => operation("The orchards you belong to") },
                    "/orchards/{slug}" => { "get" => operation("One orchard", slug) },
                    "/reckon" => { "get" => operation("The names of the reckonings") },
                    **reckonings, **rows, **others }
          Lookups.all.each { |asked| found[asked.address] = { "get" => asking(asked) } }
          Writes.all.each { |write| (found[write.address] ||= {})[write.verb.to_s] = writing(write) }
          named(found)
        end

        def reckonings
          Core::RECKONINGS.keys.to_h do |name|
            body = { "$ref" => "#/components/schemas/reckon-#{name}" }
            ["/reckon/#{name}", { "post" => operation(Core.reckoning(name).contract.summary, body: body) }]
          end
        end

        # Each table's rows a page at a time, and one of them where they have numbers.
        def rows
          Records::Archive::Rows::NAMES.each_with_object({}) do |name, found|
            page = { "$ref" => "#/components/schemas/page-#{name}" }
            found["/orchards/{slug}/#{name}"] = {
              "get" => operation("Rows of #{name}, a page at a time", slug.merge(paging), answer: page)
            }
            next unless Records::Archive::Tables.named(name).id?

            found["/orchards/{slug}/#{name}/{id}"] = {
              "get" => operation("One of #{name}", one, answer: { "$ref" => "#/components/schemas/#{name}" })
            }
          end
        end

        def others
          { "/orchards/{slug}/patterns/{id}" => { "get" => operation("How far the planning of whole rows is", one) },
            "/orchards/{slug}/photos/{id}/{size}" => {
              "get" => operation("A photo's picture, large or small", one.merge("size" => %w[path string]),
                                 kind: "image/jpeg", answer: {})
            } }
        end

        def one = slug.merge("id" => %w[path integer])

        # Each operation by a name of its own, from its method and address.
        def named(paths)
          paths.each do |path, methods|
            methods.each do |method, operation|
              operation["operationId"] = "#{method} #{path}".gsub("/orchards/{slug}", "").scan(/\w+/).join("_")
            end
          end
        end

        def asking(asked)
          with = asked.asks.to_h { |name, kind| [name.to_s, ["query", Lookup::KINDS.fetch(kind)[:type]]] }
          operation(asked.summary, (asked.of_one? ? one : slug).merge(with), answer: asked.schema)
        end

        def slug = { "slug" => %w[path string] }
        def paging = { "after" => %w[query integer], "limit" => %w[query integer] }

        # A write: who may, its body and what comes back.
        def writing(write)
          parameters = write.path.include?("{id}") ? slug
            .merge("id" => ["path", write.path.start_with?("rules") ? "string" : "integer"]) : slug
          row = write.table && { "$ref" => "#/components/schemas/#{write.table}" }
          if write.many?
            row = { "type" => "object", "properties" => { "items" => { "type" => "array", "items" => row } } }
          end
          operation(write.summary, parameters, body: noted(write, form(write.form)), made: write.made?,
                    answer: row || { "type" => "object" }).merge("description" => "Needs the role #{write.role}.")
        end

        # A form's fields, from its rules.
        def form(form)
          told = form.schema.json_schema(loose: true).slice(:type, :properties, :required).then do |each|
            JSON.parse(JSON.generate(each))
          end
          told["properties"].each do |name, field|
            field.delete("not")
            field["enum"] |= [nil] if field["enum"] && Array(field["type"]).include?("null")
            if form.lengths.key?(name.to_sym)
              field.replace("type" => %w[string number],
                            "description" => "a length: 220, 22 cm, 8 3/4 in; a bare number is in the orchard's own " \
                                             "unit")
            end
          end
          told.delete("required") if told["required"].empty?
          told.merge("additionalProperties" => false)
        end

        # The same with what is said of single fields.
        def noted(write, body)
          body["properties"].each do |name, field|
            said = [field["description"], FieldNotes.of(write, name)].compact
            field["description"] = said.join("; ") if said.any?
          end
          body
        end

        def operation(summary, parameters = {}, body: nil, answer: { "type" => "object" }, kind: "application/json",
                      secure: true, made: false)
          wrong = { "application/problem+json" => { "schema" => { "$ref" => "#/components/schemas/problem" } } }
          right = { "description" => made ? "done" : "the answer", "content" => { kind => { "schema" => answer } } }
          told = { "summary" => summary,
                   "responses" => { made ? "201" : "200" => right,
                                    "default" => { "description" => "what is wrong", "content" => wrong } } }
          if parameters.any?
            told["parameters"] = parameters.map do |name, (place, type)|
              { "name" => name, "in" => place, "required" => place == "path", "schema" => { "type" => type } }
            end
          end
          if body
            told["requestBody"] = { "required" => true, "content" => { "application/json" => { "schema" => body } } }
          end
          told["security"] = [] unless secure
          told
        end

        def schemas
          tables = Records::Archive::Tables.all.to_h { |table| [table.name, row(table)] }
          pages = Records::Archive::Rows::NAMES.to_h do |name|
            ["page-#{name}", { "type" => "object", "required" => %w[items next],
                               "properties" => { "items" => { "type" => "array",
                                   "items" => { "$ref" => "#/components/schemas/#{name}" } },
                                                 "next" => { "type" => %w[integer null] } } }]
          end
          reckonings = Core::RECKONINGS.keys.to_h do |name|
            ["reckon-#{name}", record(Core.reckoning(name).contract.fields)]
          end
          { "problem" => { "type" => "object", "required" => %w[title status],
                           "properties" => { "type" => { "type" => "string" }, "title" => { "type" => "string" },
                                             "status" => { "type" => "integer" }, "detail" => { "type" => "string" },
                                             "errors" => { "type" => "object" } } } }.merge(tables, pages, reckonings)
        end

        KINDS = { "text" => "string", "key" => "integer", "whole" => "integer", "number" => "number",
                  "yes or no" => "boolean", "day" => "string", "moment" => "string", "list" => "array",
                  "json" => %w[object array] }.freeze

        def row(table)
          shown = table.columns.except(:client_key, :hidden_at)
          properties = shown.to_h { |column, kind| [column.to_s, { "type" => [*KINDS.fetch(kind), "null"] }] }
          properties["id"] = { "type" => "integer" } if table.id?
          { "type" => "object", "properties" => properties }
        end

        # A reckoning's fields, from its contract.
        def record(fields)
          { "type" => "object", "properties" => fields.to_h { |field| [field.name.to_s, field(field)] },
            "required" => fields.reject(&:optional).map { |field| field.name.to_s } }.reject do |name, value|
            name == "required" && value.empty?
          end
        end

        def field(field)
          told = case field.kind
                 when :number then { "type" => "number", "minimum" => field.least, "maximum" => field.most,
                                     "exclusiveMinimum" => field.above, "exclusiveMaximum" => field.below }
                 when :integer then { "type" => "integer", "minimum" => field.least, "maximum" => field.most,
                                      "exclusiveMinimum" => field.above }
                 when :flag then { "type" => "boolean" }
                 when :name then { "type" => "string", "enum" => field.names }
                 when :key then { "type" => %w[string integer] }
                 when :list then { "type" => "array", "items" => field(field.of), "minItems" => field.size,
                                   "maxItems" => field.size }
                 when :record then record(field.fields)
                 else { "type" => "string" }
                 end
          if field.unit || field.help
            told = told.merge("description" => [field.unit && "in #{field.unit}", field.help].compact.join("; "))
          end
          field.optional && told["type"].is_a?(String) ? told.merge("type" => [told["type"], "null"])
            .then { |each| each["enum"] ? each.merge("enum" => each["enum"] + [nil]) : each }.compact : told.compact
        end
        private_class_method :paths, :reckonings, :rows, :others, :one, :named, :asking, :slug, :paging, :writing,
                             :form, :noted, :operation, :schemas, :row, :record, :field
      end
    end
  end
end
