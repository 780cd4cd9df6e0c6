# frozen_string_literal: true

# A weather service of an orchard's own, beside the installation's.
Sequel.migration do
  change do
    alter_table(:orchards) do
      add_column :weather_url, String
      add_constraint(:weather_url_short, Sequel.lit("weather_url IS NULL OR char_length(weather_url) <= 500"))
    end
  end
end
